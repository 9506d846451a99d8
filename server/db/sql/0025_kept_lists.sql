-- Lists that people keep: each row is pointed at by an id, and who may keep them.

ALTER TABLE freight_band
  ADD COLUMN IF NOT EXISTS id INT UNSIGNED NOT NULL AUTO_INCREMENT FIRST, ADD KEY IF NOT EXISTS freight_band_id (id);
ALTER TABLE market_value
  ADD COLUMN IF NOT EXISTS id INT UNSIGNED NOT NULL AUTO_INCREMENT FIRST, ADD KEY IF NOT EXISTS market_value_id (id);
ALTER TABLE item_unit
  ADD COLUMN IF NOT EXISTS id INT UNSIGNED NOT NULL AUTO_INCREMENT FIRST, ADD KEY IF NOT EXISTS item_unit_id (id);
ALTER TABLE customer_item
  ADD COLUMN IF NOT EXISTS id INT UNSIGNED NOT NULL AUTO_INCREMENT FIRST, ADD KEY IF NOT EXISTS customer_item_id (id);
ALTER TABLE item_vendor
  ADD COLUMN IF NOT EXISTS id INT UNSIGNED NOT NULL AUTO_INCREMENT FIRST, ADD KEY IF NOT EXISTS item_vendor_id (id);

-- Prices, units, limits, approvals: the order administrator and the sales manager keep them, to begin with.
UPDATE role SET rights = JSON_ARRAY_APPEND(rights, '$', 'lists')
 WHERE name IN ('Order administrator', 'Sales manager') AND NOT JSON_CONTAINS(rights, '"lists"');
