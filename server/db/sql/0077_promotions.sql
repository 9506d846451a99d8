-- Promotions: a period, who and what; so much off or free goods; a budget that is never passed. (S13)

CREATE TABLE IF NOT EXISTS promotion (
  company_id SMALLINT UNSIGNED NOT NULL,
  id INT UNSIGNED NOT NULL AUTO_INCREMENT,
  number VARCHAR(16) NOT NULL,
  version INT UNSIGNED NOT NULL DEFAULT 1,
  state ENUM('running', 'stopped') NOT NULL DEFAULT 'running',
  name VARCHAR(120) NOT NULL,
  -- Whom it is for: one customer, a price group, or everybody.
  customer_id INT UNSIGNED NULL,
  price_group_id INT UNSIGNED NULL,
  first_day DATE NOT NULL,
  last_day DATE NOT NULL,
  -- In the company's currency; NULL for no end.
  budget DECIMAL(18,2) NULL,
  -- What lines of orders have of it: kept by the triggers below, whatever changes a line.
  used DECIMAL(18,2) NOT NULL DEFAULT 0,
  -- Why it was stopped.
  reason VARCHAR(200) NOT NULL DEFAULT '',
  created_at DATETIME(3) NOT NULL DEFAULT CURRENT_TIMESTAMP(3),
  PRIMARY KEY (company_id, id),
  KEY promotion_id (id),
  UNIQUE KEY promotion_number (company_id, number),
  -- Serves prices: what holds still.
  KEY promotion_last (company_id, last_day, id),
  FOREIGN KEY (company_id, customer_id) REFERENCES customer (company_id, id),
  FOREIGN KEY (company_id, price_group_id) REFERENCES price_group (company_id, id),
  CONSTRAINT promotion_days CHECK (last_day >= first_day),
  CONSTRAINT promotion_who CHECK (customer_id IS NULL OR price_group_id IS NULL),
  CONSTRAINT promotion_budget CHECK (budget IS NULL OR used <= budget),
  CONSTRAINT promotion_used CHECK (used >= 0)
);

CREATE TABLE IF NOT EXISTS promotion_line (
  company_id SMALLINT UNSIGNED NOT NULL,
  id INT UNSIGNED NOT NULL AUTO_INCREMENT,
  promotion_id INT UNSIGNED NOT NULL,
  line_no SMALLINT UNSIGNED NOT NULL,
  -- An item, a group, or neither for everything.
  item_id INT UNSIGNED NULL,
  item_group_id INT UNSIGNED NULL,
  kind ENUM('percent', 'amount', 'price', 'free') NOT NULL,
  -- Per cent, or for one of the item's own unit in the company's currency.
  value DECIMAL(18,4) NOT NULL DEFAULT 0,
  from_quantity DECIMAL(18,5) NOT NULL DEFAULT 0,
  buy DECIMAL(18,5) NOT NULL DEFAULT 0,
  free DECIMAL(18,5) NOT NULL DEFAULT 0,
  free_item_id INT UNSIGNED NULL,
  PRIMARY KEY (company_id, id),
  KEY promotion_line_id (id),
  KEY promotion_line_of (company_id, promotion_id, line_no),
  FOREIGN KEY (company_id, promotion_id) REFERENCES promotion (company_id, id),
  FOREIGN KEY (company_id, item_id) REFERENCES item (company_id, id),
  FOREIGN KEY (company_id, item_group_id) REFERENCES item_group (company_id, id),
  FOREIGN KEY (company_id, free_item_id) REFERENCES item (company_id, id),
  CONSTRAINT promotion_line_what CHECK (item_id IS NULL OR item_group_id IS NULL),
  CONSTRAINT promotion_line_gives CHECK (IF(kind = 'free', buy > 0 AND free > 0, value > 0))
);

-- What a line has of a promotion: for one of the item's own unit, in the company's currency.
ALTER TABLE sales_order_line
  ADD COLUMN IF NOT EXISTS promotion_line_id INT UNSIGNED NULL,
  ADD COLUMN IF NOT EXISTS promotion_unit DECIMAL(18,4) NOT NULL DEFAULT 0,
  ADD KEY IF NOT EXISTS sales_order_line_promotion (company_id, promotion_line_id, order_id);

-- Goods that are free by a promotion count in the agreement that covers what was bought. (S13)
ALTER TABLE agreement ADD COLUMN IF NOT EXISTS free_goods_count BOOLEAN NOT NULL DEFAULT FALSE;

CREATE OR REPLACE TRIGGER sales_order_line_promoted_new AFTER INSERT ON sales_order_line FOR EACH ROW
  IF NEW.promotion_line_id IS NOT NULL THEN
    UPDATE promotion p JOIN promotion_line l ON l.company_id = p.company_id AND l.promotion_id = p.id
       SET p.used = p.used + ROUND(NEW.promotion_unit * (NEW.quantity - NEW.cancelled), 2)
     WHERE l.company_id = NEW.company_id AND l.id = NEW.promotion_line_id;
  END IF;

CREATE OR REPLACE TRIGGER sales_order_line_promoted AFTER UPDATE ON sales_order_line FOR EACH ROW
  IF NOT (NEW.promotion_line_id <=> OLD.promotion_line_id) OR NEW.promotion_unit <> OLD.promotion_unit
     OR NEW.quantity - NEW.cancelled <> OLD.quantity - OLD.cancelled THEN
    IF OLD.promotion_line_id IS NOT NULL THEN
      UPDATE promotion p JOIN promotion_line l ON l.company_id = p.company_id AND l.promotion_id = p.id
         SET p.used = p.used - ROUND(OLD.promotion_unit * (OLD.quantity - OLD.cancelled), 2)
       WHERE l.company_id = OLD.company_id AND l.id = OLD.promotion_line_id;
    END IF;
    IF NEW.promotion_line_id IS NOT NULL THEN
      UPDATE promotion p JOIN promotion_line l ON l.company_id = p.company_id AND l.promotion_id = p.id
         SET p.used = p.used + ROUND(NEW.promotion_unit * (NEW.quantity - NEW.cancelled), 2)
       WHERE l.company_id = NEW.company_id AND l.id = NEW.promotion_line_id;
    END IF;
  END IF;

CREATE OR REPLACE TRIGGER sales_order_line_promoted_gone AFTER DELETE ON sales_order_line FOR EACH ROW
  IF OLD.promotion_line_id IS NOT NULL THEN
    UPDATE promotion p JOIN promotion_line l ON l.company_id = p.company_id AND l.promotion_id = p.id
       SET p.used = p.used - ROUND(OLD.promotion_unit * (OLD.quantity - OLD.cancelled), 2)
     WHERE l.company_id = OLD.company_id AND l.id = OLD.promotion_line_id;
  END IF;

UPDATE role SET rights = JSON_ARRAY_APPEND(rights, '$', 'promotions')
 WHERE name IN ('Order administrator', 'Sales manager') AND NOT JSON_CONTAINS(rights, '"promotions"');
