import { placed, WORK_DATE, type Visitor, type World } from './world';

/**
 * A drop shipment from its agreement to the end: received and shipped, the customer invoiced, the vendor's invoice
 * entered at another price, neither paid yet.
 */
export async function wholeThread(
  world: World,
  visitor: Visitor,
  agreement: { id: number; lineId: number },
  quantity: string,
  vendorNumber: string,
) {
  const ids = await placed(world, visitor, agreement, quantity);
  const moved = await visitor.does('receiveGoods', {
    purchaseId: ids.purchaseId,
    lines: [{ lineId: ids.purchaseLineId, quantity }],
  });
  const [invoice] = await visitor.does('invoiceCustomer', { orderId: ids.orderId });
  const [vendorInvoice] = await visitor.does('enterVendorInvoice', {
    purchaseId: ids.purchaseId,
    vendorNumber,
    invoiceDate: WORK_DATE,
    lines: [{ purchaseLineId: ids.purchaseLineId, quantity, unitPrice: '633.33' }],
  });
  const of = (kind: string) => moved.find((document) => document.kind === kind)!;
  return { ...ids, receipt: of('RC'), shipment: of('SH'), invoice: invoice!, vendorInvoice: vendorInvoice! };
}
