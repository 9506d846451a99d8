-- Agreements by value and with vendors, and which agreement prices an order line. (A1, A5, A13, A14)

CREATE TABLE IF NOT EXISTS item_group (
  company_id SMALLINT UNSIGNED NOT NULL,
  id INT UNSIGNED NOT NULL AUTO_INCREMENT,
  code VARCHAR(12) NOT NULL,
  name VARCHAR(60) NOT NULL,
  PRIMARY KEY (company_id, id),
  KEY item_group_id (id),
  UNIQUE KEY item_group_code (company_id, code),
  FOREIGN KEY (company_id) REFERENCES company (id)
);

-- Who in the company sells: what fulfilment is summed by.
CREATE TABLE IF NOT EXISTS sales_organisation (
  company_id SMALLINT UNSIGNED NOT NULL,
  id INT UNSIGNED NOT NULL AUTO_INCREMENT,
  code VARCHAR(12) NOT NULL,
  name VARCHAR(60) NOT NULL,
  PRIMARY KEY (company_id, id),
  KEY sales_organisation_id (id),
  UNIQUE KEY sales_organisation_code (company_id, code),
  FOREIGN KEY (company_id) REFERENCES company (id)
);

ALTER TABLE item
  ADD COLUMN IF NOT EXISTS item_group_id INT UNSIGNED NULL,
  ADD KEY IF NOT EXISTS item_group (company_id, item_group_id),
  ADD CONSTRAINT item_of_group FOREIGN KEY IF NOT EXISTS (company_id, item_group_id) REFERENCES item_group (company_id, id);

ALTER TABLE customer
  -- Held to items with an agreement price; everything else is refused. (A14)
  ADD COLUMN IF NOT EXISTS contracted_only BOOLEAN NOT NULL DEFAULT FALSE,
  ADD COLUMN IF NOT EXISTS sales_organisation_id INT UNSIGNED NULL,
  ADD CONSTRAINT customer_organisation FOREIGN KEY IF NOT EXISTS (company_id, sales_organisation_id)
    REFERENCES sales_organisation (company_id, id);

ALTER TABLE agreement
  MODIFY COLUMN customer_id INT UNSIGNED NULL,
  ADD COLUMN IF NOT EXISTS side ENUM('selling','buying') NOT NULL DEFAULT 'selling',
  ADD COLUMN IF NOT EXISTS basis ENUM('quantity','value') NOT NULL DEFAULT 'quantity',
  ADD COLUMN IF NOT EXISTS vendor_id INT UNSIGNED NULL,
  ADD COLUMN IF NOT EXISTS sales_organisation_id INT UNSIGNED NULL,
  -- Serves "which agreements of this vendor".
  ADD KEY IF NOT EXISTS agreement_vendor (company_id, vendor_id),
  ADD CONSTRAINT agreement_of_vendor FOREIGN KEY IF NOT EXISTS (company_id, vendor_id) REFERENCES vendor (company_id, id),
  ADD CONSTRAINT agreement_organisation FOREIGN KEY IF NOT EXISTS (company_id, sales_organisation_id)
    REFERENCES sales_organisation (company_id, id),
  ADD CONSTRAINT IF NOT EXISTS agreement_side CHECK (
    (side = 'selling') = (customer_id IS NOT NULL) AND (side = 'buying') = (vendor_id IS NOT NULL)
  );

-- A line commits an item to a quantity; of a value agreement it commits an item, a group or everything to an amount.
-- Goods that come back lower what was shipped and, once credited, what was invoiced.
ALTER TABLE agreement_line
  DROP CONSTRAINT IF EXISTS agreement_line_flow,
  MODIFY COLUMN item_id INT UNSIGNED NULL,
  MODIFY COLUMN committed DECIMAL(18,5) NOT NULL DEFAULT 0,
  ADD COLUMN IF NOT EXISTS item_group_id INT UNSIGNED NULL,
  ADD KEY IF NOT EXISTS agreement_line_group (company_id, item_group_id),
  ADD CONSTRAINT agreement_line_of_group FOREIGN KEY IF NOT EXISTS (company_id, item_group_id)
    REFERENCES item_group (company_id, id),
  ADD CONSTRAINT IF NOT EXISTS agreement_line_scope CHECK (item_id IS NULL OR item_group_id IS NULL),
  ADD CONSTRAINT IF NOT EXISTS agreement_line_commits CHECK (
    committed >= 0 AND (committed > 0 OR committed_value > 0) AND (committed = 0 OR item_id IS NOT NULL)
  );

-- What of an order line's amount counts against its agreement, where that is not the whole. (A5)
ALTER TABLE sales_order_line ADD COLUMN IF NOT EXISTS agreed_amount DECIMAL(18,4) NULL;
ALTER TABLE shipment_line ADD COLUMN IF NOT EXISTS agreed_value DECIMAL(18,4) NULL;
ALTER TABLE customer_invoice_line ADD COLUMN IF NOT EXISTS agreed_net DECIMAL(18,4) NULL;

ALTER TABLE purchase_order
  ADD COLUMN IF NOT EXISTS agreement_id INT UNSIGNED NULL,
  ADD CONSTRAINT purchase_order_agreement FOREIGN KEY IF NOT EXISTS (company_id, agreement_id)
    REFERENCES agreement (company_id, id);

ALTER TABLE purchase_order_line
  ADD COLUMN IF NOT EXISTS agreement_line_id INT UNSIGNED NULL,
  ADD COLUMN IF NOT EXISTS agreed_amount DECIMAL(18,4) NULL,
  ADD KEY IF NOT EXISTS purchase_order_line_agreement (company_id, agreement_line_id),
  ADD CONSTRAINT purchase_order_line_of_agreement FOREIGN KEY IF NOT EXISTS (company_id, agreement_line_id)
    REFERENCES agreement_line (company_id, id);

ALTER TABLE receipt_line ADD COLUMN IF NOT EXISTS agreed_value DECIMAL(18,4) NULL;
ALTER TABLE vendor_invoice_line ADD COLUMN IF NOT EXISTS agreed_net DECIMAL(18,4) NULL;
