/**
 * Whether vendor `iv.vendor_id` may sell item `i` of group `g` to us on a day, given twice. // L9
 * Served by vendor_approval_item and vendor_approval_group.
 */
export const APPROVED = `(NOT (i.approval_needed OR COALESCE(g.approval_needed, FALSE)) OR EXISTS (
  SELECT 1 FROM vendor_approval va WHERE va.company_id = i.company_id AND va.vendor_id = iv.vendor_id
     AND (va.item_id = i.id OR va.item_group_id = i.item_group_id)
     AND va.first_day <= ? AND (va.last_day IS NULL OR va.last_day >= ?)))`;
