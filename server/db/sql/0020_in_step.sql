-- Whether a tie's ends differ, and whether its supply comes too late: kept by the acts, proven by verify, so that the
-- lists of those walk a key. (L6)
ALTER TABLE tie
  ADD COLUMN IF NOT EXISTS late BOOLEAN NOT NULL DEFAULT FALSE,
  ADD COLUMN IF NOT EXISTS differs BOOLEAN NOT NULL DEFAULT FALSE,
  ADD KEY IF NOT EXISTS tie_late (company_id, open, late, id),
  ADD KEY IF NOT EXISTS tie_differs (company_id, open, differs, id);

UPDATE tie t
  JOIN sales_order_line sl ON sl.company_id = t.company_id AND sl.id = t.order_line_id
  JOIN sales_order o ON o.company_id = sl.company_id AND o.id = sl.order_id
  JOIN purchase_order_line pl ON pl.company_id = t.company_id AND pl.id = t.purchase_line_id
  JOIN purchase_order p ON p.company_id = pl.company_id AND p.id = pl.purchase_order_id
   SET t.late = pl.due_date > sl.ship_date,
       t.differs = pl.due_date > sl.ship_date OR sl.tied <> sl.quantity - sl.cancelled
         OR (sl.route = 'drop' AND (t.quantity <> pl.quantity OR NOT (o.ship_to_id <=> p.ship_to_id)));
