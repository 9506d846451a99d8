-- Months that are closed: nothing is posted into them any more, whatever posts it. (P9)
CREATE TABLE IF NOT EXISTS period (
  company_id SMALLINT UNSIGNED NOT NULL,
  -- The last day of the last closed month; nothing where none is.
  closed_through DATE NULL,
  closed_at DATETIME(3) NULL,
  PRIMARY KEY (company_id),
  FOREIGN KEY (company_id) REFERENCES company (id)
);
INSERT IGNORE INTO period (company_id) SELECT id FROM company;

CREATE OR REPLACE TRIGGER company_has_periods AFTER INSERT ON company FOR EACH ROW
  INSERT INTO period (company_id) VALUES (NEW.id);

-- Every closing and opening again, with why.
CREATE TABLE IF NOT EXISTS period_move (
  company_id SMALLINT UNSIGNED NOT NULL,
  id INT UNSIGNED NOT NULL AUTO_INCREMENT,
  -- The first day of the month that was closed or opened again.
  month DATE NOT NULL,
  closed BOOLEAN NOT NULL,
  reason VARCHAR(200) NOT NULL DEFAULT '',
  person_id INT UNSIGNED NOT NULL,
  at DATETIME(3) NOT NULL DEFAULT CURRENT_TIMESTAMP(3),
  PRIMARY KEY (company_id, id),
  KEY period_move_id (id),
  FOREIGN KEY (company_id) REFERENCES company (id)
);
CREATE OR REPLACE TRIGGER period_move_no_update BEFORE UPDATE ON period_move FOR EACH ROW
  SIGNAL SQLSTATE '45000' SET MESSAGE_TEXT = 'period_move is written once';
CREATE OR REPLACE TRIGGER period_move_no_delete BEFORE DELETE ON period_move FOR EACH ROW
  SIGNAL SQLSTATE '45000' SET MESSAGE_TEXT = 'period_move is written once';

-- The day of the document where it was posted on a later one, because its month was closed.
ALTER TABLE journal ADD COLUMN IF NOT EXISTS document_day DATE NULL;

-- The row is locked with what posts: who closes waits for it, and who posts after sees the month closed.
CREATE OR REPLACE TRIGGER journal_in_open_month BEFORE INSERT ON journal FOR EACH ROW
BEGIN
  DECLARE through DATE;
  SELECT closed_through INTO through FROM period WHERE company_id = NEW.company_id LOCK IN SHARE MODE;
  IF NEW.posted_on <= through THEN
    SET NEW.document_day = NEW.posted_on, NEW.posted_on = through + INTERVAL 1 DAY;
  END IF;
END;

CREATE OR REPLACE TRIGGER stock_entry_in_open_month BEFORE INSERT ON stock_entry FOR EACH ROW
BEGIN
  DECLARE through DATE;
  SELECT closed_through INTO through FROM period WHERE company_id = NEW.company_id LOCK IN SHARE MODE;
  IF NEW.posted_on <= through THEN
    SET NEW.posted_on = through + INTERVAL 1 DAY;
  END IF;
END;

UPDATE role SET rights = JSON_ARRAY_APPEND(rights, '$', 'periods')
  WHERE name = 'Accounts clerk' AND NOT JSON_CONTAINS(rights, '"periods"');
