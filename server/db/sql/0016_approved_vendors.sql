-- Items, or whole groups, that are bought only from approved vendors, and who is approved when. (L9)

ALTER TABLE item ADD COLUMN IF NOT EXISTS approval_needed BOOLEAN NOT NULL DEFAULT FALSE;
ALTER TABLE item_group ADD COLUMN IF NOT EXISTS approval_needed BOOLEAN NOT NULL DEFAULT FALSE;

CREATE TABLE IF NOT EXISTS vendor_approval (
  company_id SMALLINT UNSIGNED NOT NULL,
  id INT UNSIGNED NOT NULL AUTO_INCREMENT,
  vendor_id INT UNSIGNED NOT NULL,
  -- One of the two: the item, or all items of the group.
  item_id INT UNSIGNED NULL,
  item_group_id INT UNSIGNED NULL,
  first_day DATE NOT NULL,
  -- NULL while it is open-ended.
  last_day DATE NULL,
  PRIMARY KEY (company_id, id),
  KEY vendor_approval_id (id),
  -- Serves "is this vendor approved for this item, or its group".
  KEY vendor_approval_item (company_id, item_id, vendor_id),
  KEY vendor_approval_group (company_id, item_group_id, vendor_id),
  FOREIGN KEY (company_id, vendor_id) REFERENCES vendor (company_id, id),
  FOREIGN KEY (company_id, item_id) REFERENCES item (company_id, id),
  FOREIGN KEY (company_id, item_group_id) REFERENCES item_group (company_id, id),
  CONSTRAINT vendor_approval_of CHECK ((item_id IS NULL) <> (item_group_id IS NULL)),
  CONSTRAINT vendor_approval_period CHECK (last_day IS NULL OR last_day >= first_day)
);
