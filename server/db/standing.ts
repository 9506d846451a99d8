/** A receipt's or shipment's line that neither was reversed nor reverses another, in SQL. // P1 */
export function stands(table: 'receipt_line' | 'shipment_line', line: string): string {
  return `${line}.reverses_line_id IS NULL AND NOT EXISTS (SELECT 1 FROM ${table} v
          WHERE v.company_id = ${line}.company_id AND v.reverses_line_id = ${line}.id)`;
}

/** A customer invoice's line whose invoice was not taken back whole, in SQL. // P1 */
export function notTakenBack(line: string): string {
  return `NOT EXISTS (SELECT 1 FROM credit_note n WHERE n.company_id = ${line}.company_id
          AND n.customer_invoice_id = ${line}.invoice_id AND n.kind = 'reversal')`;
}

/** A vendor invoice that neither was taken back nor takes another back, in SQL. // P1 */
export function invoiceStands(invoice: string): string {
  return `(${invoice}.reverses_id IS NULL AND NOT EXISTS (SELECT 1 FROM vendor_invoice v
          WHERE v.company_id = ${invoice}.company_id AND v.reverses_id = ${invoice}.id))`;
}
