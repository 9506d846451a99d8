-- Sister companies: each keeps its own half of a pair, who the other is among its customers and vendors. (X1)
CREATE TABLE IF NOT EXISTS sister (
  company_id SMALLINT UNSIGNED NOT NULL,
  sister_id SMALLINT UNSIGNED NOT NULL,
  customer_id INT UNSIGNED NULL,
  vendor_id INT UNSIGNED NULL,
  -- What she pays us: what anybody would, so many per cent below the list, or above what it cost us. (X5)
  transfer ENUM('ordinary', 'list-less', 'cost-plus') NOT NULL DEFAULT 'ordinary',
  per_cent DECIMAL(7,3) NOT NULL DEFAULT 0,
  -- What of hers fits wholly is taken without anybody.
  takes_fitting BOOLEAN NOT NULL DEFAULT FALSE,
  PRIMARY KEY (company_id, sister_id),
  UNIQUE KEY sister_customer (company_id, customer_id),
  UNIQUE KEY sister_vendor (company_id, vendor_id),
  FOREIGN KEY (company_id) REFERENCES company (id),
  FOREIGN KEY (sister_id) REFERENCES company (id),
  FOREIGN KEY (company_id, customer_id) REFERENCES customer (company_id, id),
  FOREIGN KEY (company_id, vendor_id) REFERENCES vendor (company_id, id),
  CONSTRAINT sister_other CHECK (sister_id <> company_id)
);

-- One item under two numbers; `factor` units of the company with the higher id are one of the lower's.
CREATE TABLE IF NOT EXISTS sister_item (
  low_id SMALLINT UNSIGNED NOT NULL,
  high_id SMALLINT UNSIGNED NOT NULL,
  low_item_id INT UNSIGNED NOT NULL,
  high_item_id INT UNSIGNED NOT NULL,
  factor DECIMAL(18,6) NOT NULL DEFAULT 1,
  PRIMARY KEY (low_id, high_id, low_item_id),
  UNIQUE KEY sister_item_high (high_id, low_id, high_item_id),
  FOREIGN KEY (low_id, low_item_id) REFERENCES item (company_id, id),
  FOREIGN KEY (high_id, high_item_id) REFERENCES item (company_id, id),
  CONSTRAINT sister_item_order CHECK (low_id < high_id),
  CONSTRAINT sister_item_factor CHECK (factor > 0)
);

-- An address of the buyer's customer, as the seller knows it among the buyer's addresses.
CREATE TABLE IF NOT EXISTS sister_address (
  seller_id SMALLINT UNSIGNED NOT NULL,
  ship_to_id INT UNSIGNED NOT NULL,
  buyer_id SMALLINT UNSIGNED NOT NULL,
  buyer_ship_to_id INT UNSIGNED NOT NULL,
  PRIMARY KEY (seller_id, ship_to_id),
  UNIQUE KEY sister_address_buyer (buyer_id, buyer_ship_to_id, seller_id),
  FOREIGN KEY (seller_id, ship_to_id) REFERENCES ship_to (company_id, id),
  FOREIGN KEY (buyer_id, buyer_ship_to_id) REFERENCES ship_to (company_id, id)
);

-- A line that one sells and the other buys: one thing, twice told; `factor` of the buyer's units are one of the seller's.
CREATE TABLE IF NOT EXISTS sister_line (
  seller_id SMALLINT UNSIGNED NOT NULL,
  sales_line_id INT UNSIGNED NOT NULL,
  buyer_id SMALLINT UNSIGNED NOT NULL,
  purchase_line_id INT UNSIGNED NOT NULL,
  factor DECIMAL(18,6) NOT NULL DEFAULT 1,
  PRIMARY KEY (seller_id, sales_line_id),
  KEY sister_line_purchase (buyer_id, purchase_line_id),
  FOREIGN KEY (seller_id, sales_line_id) REFERENCES sales_order_line (company_id, id),
  FOREIGN KEY (buyer_id, purchase_line_id) REFERENCES purchase_order_line (company_id, id)
);

-- The seller's shipment and the buyer's receipt that are one movement. (X4)
CREATE TABLE IF NOT EXISTS sister_move (
  seller_id SMALLINT UNSIGNED NOT NULL,
  shipment_id INT UNSIGNED NOT NULL,
  buyer_id SMALLINT UNSIGNED NOT NULL,
  receipt_id INT UNSIGNED NOT NULL,
  PRIMARY KEY (seller_id, shipment_id, receipt_id),
  UNIQUE KEY sister_move_receipt (buyer_id, receipt_id),
  FOREIGN KEY (seller_id, shipment_id) REFERENCES shipment (company_id, id),
  FOREIGN KEY (buyer_id, receipt_id) REFERENCES receipt (company_id, id)
);

-- What one company's document is to the other: a row for each source and kind, whatever is sent twice. (X2)
CREATE TABLE IF NOT EXISTS offer (
  id INT UNSIGNED NOT NULL AUTO_INCREMENT,
  -- Whom it is offered to, and by whom.
  company_id SMALLINT UNSIGNED NOT NULL,
  from_id SMALLINT UNSIGNED NOT NULL,
  -- What it would be here: a sales order, a purchase order, a receipt, a vendor invoice.
  kind ENUM('order', 'purchase', 'receipt', 'invoice') NOT NULL,
  source_id INT UNSIGNED NOT NULL,
  number VARCHAR(16) NOT NULL,
  revision INT UNSIGNED NOT NULL DEFAULT 0,
  -- The source was cancelled or taken back.
  gone BOOLEAN NOT NULL DEFAULT FALSE,
  state ENUM('open', 'aside', 'returned', 'taken', 'folded', 'dropped') NOT NULL DEFAULT 'open',
  -- The revision that was taken or is known, and whether that it is gone is.
  taken_revision INT UNSIGNED NOT NULL DEFAULT 0,
  taken_gone BOOLEAN NOT NULL DEFAULT FALSE,
  taken_id INT UNSIGNED NULL,
  reason VARCHAR(200) NOT NULL DEFAULT '',
  -- Set aside until that day.
  until_day DATE NULL,
  at DATETIME(3) NOT NULL DEFAULT CURRENT_TIMESTAMP(3),
  waits BOOLEAN AS (state IN ('open', 'aside') OR (state IN ('taken', 'folded') AND (revision <> taken_revision OR gone <> taken_gone))) PERSISTENT,
  PRIMARY KEY (id),
  UNIQUE KEY offer_source (from_id, kind, source_id),
  -- Serves the tray: what waits here, newest first; what came back to its sender; what a document was made of.
  KEY offer_waits (company_id, waits, id),
  KEY offer_from (from_id, state, id),
  KEY offer_taken (company_id, kind, taken_id),
  FOREIGN KEY (company_id) REFERENCES company (id),
  FOREIGN KEY (from_id) REFERENCES company (id),
  CONSTRAINT offer_other CHECK (company_id <> from_id)
);

-- Whatever places, confirms, ships, invoices or changes: its sister hears of it in the same transaction.
CREATE OR REPLACE TRIGGER purchase_order_offered_new AFTER INSERT ON purchase_order FOR EACH ROW
  IF NEW.state = 'placed' THEN
    INSERT INTO offer (company_id, from_id, kind, source_id, number, revision)
      SELECT s.sister_id, NEW.company_id, 'order', NEW.id, NEW.number, NEW.revision
        FROM sister s WHERE s.company_id = NEW.company_id AND s.vendor_id = NEW.vendor_id;
  END IF;

CREATE OR REPLACE TRIGGER purchase_order_offered AFTER UPDATE ON purchase_order FOR EACH ROW
  IF NEW.state <> OLD.state OR NEW.revision <> OLD.revision THEN
    IF NEW.state = 'placed' THEN
      INSERT INTO offer (company_id, from_id, kind, source_id, number, revision)
        SELECT s.sister_id, NEW.company_id, 'order', NEW.id, NEW.number, NEW.revision
          FROM sister s WHERE s.company_id = NEW.company_id AND s.vendor_id = NEW.vendor_id
        ON DUPLICATE KEY UPDATE revision = NEW.revision, gone = FALSE, state = IF(state IN ('returned', 'dropped'), 'open', state);
    ELSEIF NEW.state = 'cancelled' THEN
      UPDATE offer SET gone = TRUE, state = IF(state IN ('open', 'aside', 'returned'), 'dropped', state)
       WHERE from_id = NEW.company_id AND kind = 'order' AND source_id = NEW.id;
    END IF;
  END IF;

CREATE OR REPLACE TRIGGER sales_order_offered AFTER UPDATE ON sales_order FOR EACH ROW
  IF NEW.state <> OLD.state OR NEW.revision <> OLD.revision THEN
    IF NEW.state = 'confirmed' THEN
      INSERT INTO offer (company_id, from_id, kind, source_id, number, revision)
        SELECT s.sister_id, NEW.company_id, 'purchase', NEW.id, NEW.number, NEW.revision
          FROM sister s WHERE s.company_id = NEW.company_id AND s.customer_id = NEW.customer_id
        ON DUPLICATE KEY UPDATE revision = NEW.revision, gone = FALSE, state = IF(state IN ('returned', 'dropped'), 'open', state);
    ELSEIF NEW.state = 'cancelled' THEN
      UPDATE offer SET gone = TRUE, state = IF(state IN ('open', 'aside', 'returned'), 'dropped', state)
       WHERE from_id = NEW.company_id AND kind = 'purchase' AND source_id = NEW.id;
    END IF;
  END IF;

-- What goes straight to the buyer's customer is received in the act that ships it, and not offered.
CREATE OR REPLACE TRIGGER shipment_offered AFTER INSERT ON shipment FOR EACH ROW
  IF NEW.reverses_id IS NOT NULL THEN
    UPDATE offer SET gone = TRUE, state = IF(state IN ('open', 'aside', 'returned'), 'dropped', state)
     WHERE from_id = NEW.company_id AND kind = 'receipt' AND source_id = NEW.reverses_id;
  ELSE
    INSERT INTO offer (company_id, from_id, kind, source_id, number)
      SELECT s.sister_id, NEW.company_id, 'receipt', NEW.id, NEW.number
        FROM sister s
       WHERE s.company_id = NEW.company_id AND s.customer_id = NEW.customer_id
         AND NOT EXISTS (SELECT 1 FROM sister_address a WHERE a.seller_id = NEW.company_id AND a.ship_to_id = NEW.ship_to_id);
  END IF;

-- Goods that were taken from the tray and are taken back by who received them wait there again.
CREATE OR REPLACE TRIGGER receipt_taken_back AFTER INSERT ON receipt FOR EACH ROW
  IF NEW.reverses_id IS NOT NULL THEN
    UPDATE offer SET state = 'open', taken_id = NULL
     WHERE company_id = NEW.company_id AND kind = 'receipt' AND taken_id = NEW.reverses_id AND gone = FALSE;
  END IF;

-- An invoice that was entered by hand already is known by its number and not offered a second time. (X3)
CREATE OR REPLACE TRIGGER customer_invoice_offered AFTER INSERT ON customer_invoice FOR EACH ROW
  INSERT INTO offer (company_id, from_id, kind, source_id, number, state, taken_id)
    SELECT s.sister_id, NEW.company_id, 'invoice', NEW.id, NEW.number, IF(v.id IS NULL, 'open', 'folded'), v.id
      FROM sister s
      LEFT JOIN sister o ON o.company_id = s.sister_id AND o.sister_id = NEW.company_id
      LEFT JOIN vendor_invoice v ON v.company_id = o.company_id AND v.vendor_id = o.vendor_id AND v.vendor_number = NEW.number
     WHERE s.company_id = NEW.company_id AND s.customer_id = NEW.customer_id;

CREATE OR REPLACE TRIGGER vendor_invoice_known AFTER INSERT ON vendor_invoice FOR EACH ROW
  UPDATE offer f JOIN sister s ON s.company_id = f.company_id AND s.sister_id = f.from_id AND s.vendor_id = NEW.vendor_id
     SET f.state = 'folded', f.taken_id = NEW.id
   WHERE f.company_id = NEW.company_id AND f.waits = TRUE AND f.kind = 'invoice' AND f.number = NEW.vendor_number;

-- Who it is offered to hears of it as of anything that is done in the company.
CREATE OR REPLACE TRIGGER offer_heard_new AFTER INSERT ON offer FOR EACH ROW
  IF NEW.state = 'open' THEN
    INSERT INTO audit (company_id, person_id, act, origin, input, documents)
      SELECT NEW.company_id, p.id, 'offered', 'sister', JSON_OBJECT('number', NEW.number), '[]' FROM person p WHERE p.sign_in = 'kampong';
  END IF;

CREATE OR REPLACE TRIGGER offer_heard AFTER UPDATE ON offer FOR EACH ROW
  IF NEW.waits <> OLD.waits OR NEW.revision <> OLD.revision OR NEW.gone <> OLD.gone THEN
    INSERT INTO audit (company_id, person_id, act, origin, input, documents)
      SELECT c.id, p.id, 'offered', 'sister', JSON_OBJECT('number', NEW.number), '[]' FROM person p JOIN company c ON c.id IN (NEW.company_id, NEW.from_id)
       WHERE p.sign_in = 'kampong';
  END IF;
