-- A sister company of another installation: known here by her name and what she sends. Nobody works in it here. (X1 X2)
ALTER TABLE company ADD COLUMN IF NOT EXISTS elsewhere BOOLEAN NOT NULL DEFAULT FALSE;

-- The buyer's: her own working days that goods are on the way. The seller's: how many days she holds what she is asked for.
ALTER TABLE sister ADD COLUMN IF NOT EXISTS transit_days TINYINT UNSIGNED NOT NULL DEFAULT 0,
  ADD COLUMN IF NOT EXISTS hold_days TINYINT UNSIGNED NOT NULL DEFAULT 5;

ALTER TABLE offer MODIFY number VARCHAR(40) NOT NULL;

-- What she sent us, as her file tells it: a row a document, whatever is sent twice; its newest revision.
CREATE TABLE IF NOT EXISTS elsewhere_document (
  company_id SMALLINT UNSIGNED NOT NULL,
  id INT UNSIGNED NOT NULL AUTO_INCREMENT,
  to_id SMALLINT UNSIGNED NOT NULL,
  kind ENUM('order', 'purchase', 'receipt', 'invoice') NOT NULL,
  number VARCHAR(40) NOT NULL,
  currency CHAR(3) NOT NULL,
  day DATE NOT NULL,
  -- Where it goes, in her words; empty for her own place.
  label VARCHAR(60) NOT NULL DEFAULT '',
  street VARCHAR(120) NOT NULL DEFAULT '',
  postcode VARCHAR(12) NOT NULL DEFAULT '',
  town VARCHAR(60) NOT NULL DEFAULT '',
  country VARCHAR(60) NOT NULL DEFAULT '',
  -- What an invoice comes to, with its tax.
  total DECIMAL(18,4) NOT NULL DEFAULT 0,
  PRIMARY KEY (company_id, id),
  KEY elsewhere_document_id (id),
  UNIQUE KEY elsewhere_document_number (company_id, to_id, kind, number),
  FOREIGN KEY (company_id) REFERENCES company (id),
  FOREIGN KEY (to_id) REFERENCES company (id)
);

CREATE TABLE IF NOT EXISTS elsewhere_line (
  company_id SMALLINT UNSIGNED NOT NULL,
  id INT UNSIGNED NOT NULL AUTO_INCREMENT,
  document_id INT UNSIGNED NOT NULL,
  line_no INT UNSIGNED NOT NULL,
  item_id INT UNSIGNED NOT NULL,
  quantity DECIMAL(18,5) NOT NULL,
  day DATE NULL,
  price DECIMAL(18,4) NOT NULL DEFAULT 0,
  -- Our line that is the same thing: of a sales order where she ordered, else of a purchase.
  line_id INT UNSIGNED NULL,
  -- Of an invoice: the delivery note its goods came with.
  despatch VARCHAR(40) NOT NULL DEFAULT '',
  -- Of goods: the numbers of their pieces.
  numbers TEXT NOT NULL DEFAULT '',
  PRIMARY KEY (company_id, id),
  KEY elsewhere_line_id (id),
  UNIQUE KEY elsewhere_line_no (company_id, document_id, line_no),
  KEY elsewhere_line_ours (line_id),
  KEY elsewhere_line_despatch (company_id, despatch),
  FOREIGN KEY (company_id, document_id) REFERENCES elsewhere_document (company_id, id),
  FOREIGN KEY (company_id, item_id) REFERENCES item (company_id, id)
);

-- What goes to sisters elsewhere: a document of ours, new or changed, or that one of hers was returned; to be sent until it is.
CREATE TABLE IF NOT EXISTS elsewhere_due (
  offer_id INT UNSIGNED NOT NULL,
  company_id SMALLINT UNSIGNED NOT NULL,
  -- The last day it was sent as it is; null until then.
  sent_on DATE NULL,
  waits BOOLEAN AS (sent_on IS NULL) PERSISTENT,
  PRIMARY KEY (offer_id),
  KEY elsewhere_due_company (company_id, waits, offer_id),
  FOREIGN KEY (offer_id) REFERENCES offer (id)
);

CREATE OR REPLACE TRIGGER offer_due_new AFTER INSERT ON offer FOR EACH ROW
  INSERT INTO elsewhere_due (offer_id, company_id)
    SELECT NEW.id, NEW.from_id FROM company c WHERE c.id = NEW.company_id AND c.elsewhere = TRUE;

CREATE OR REPLACE TRIGGER offer_due AFTER UPDATE ON offer FOR EACH ROW
BEGIN
  IF NEW.revision <> OLD.revision OR NEW.gone <> OLD.gone THEN
    INSERT INTO elsewhere_due (offer_id, company_id)
      SELECT NEW.id, NEW.from_id FROM company c WHERE c.id = NEW.company_id AND c.elsewhere = TRUE
      ON DUPLICATE KEY UPDATE sent_on = NULL;
  END IF;
  IF NEW.state = 'returned' AND OLD.state <> 'returned' THEN
    INSERT INTO elsewhere_due (offer_id, company_id)
      SELECT NEW.id, NEW.company_id FROM company c WHERE c.id = NEW.from_id AND c.elsewhere = TRUE
      ON DUPLICATE KEY UPDATE sent_on = NULL;
  ELSEIF OLD.state = 'returned' AND NEW.state <> 'returned' THEN
    -- Changed by her it is to be looked at anew, and goes back no more.
    DELETE FROM elsewhere_due WHERE offer_id = NEW.id AND company_id = NEW.company_id;
  END IF;
END;

-- What a sister holds of hers for an order line of ours until a day, as a draft order of hers that is promised. (T8 X4)
CREATE TABLE IF NOT EXISTS sister_hold (
  id INT UNSIGNED NOT NULL AUTO_INCREMENT,
  seller_id SMALLINT UNSIGNED NOT NULL,
  -- Her draft, one a hold.
  order_id INT UNSIGNED NOT NULL,
  buyer_id SMALLINT UNSIGNED NOT NULL,
  order_line_id INT UNSIGNED NOT NULL,
  until_day DATE NOT NULL,
  state ENUM('held', 'used', 'lapsed', 'let-go') NOT NULL DEFAULT 'held',
  held_line INT UNSIGNED AS (IF(state = 'held', order_line_id, NULL)) PERSISTENT,
  PRIMARY KEY (id),
  UNIQUE KEY sister_hold_order (seller_id, order_id),
  -- One at a time for a line.
  UNIQUE KEY sister_hold_line (buyer_id, held_line),
  -- Serves those that lapse.
  KEY sister_hold_until (seller_id, state, until_day),
  FOREIGN KEY (seller_id, order_id) REFERENCES sales_order (company_id, id),
  FOREIGN KEY (buyer_id, order_line_id) REFERENCES sales_order_line (company_id, id)
);

-- Which of our taxes a sister's is, on what she invoices us; the buyer's. (X1)
CREATE TABLE IF NOT EXISTS sister_tax (
  company_id SMALLINT UNSIGNED NOT NULL,
  sister_id SMALLINT UNSIGNED NOT NULL,
  their_tax_code_id INT UNSIGNED NOT NULL,
  tax_code_id INT UNSIGNED NOT NULL,
  PRIMARY KEY (company_id, sister_id, their_tax_code_id),
  FOREIGN KEY (company_id, tax_code_id) REFERENCES tax_code (company_id, id),
  FOREIGN KEY (sister_id, their_tax_code_id) REFERENCES tax_code (company_id, id)
);
