-- What is written once is sealed in turn, some at a time: each seal holds the one before it and the rows since. (U6)
ALTER TABLE stock_entry ADD COLUMN IF NOT EXISTS created_at DATETIME(3) NOT NULL DEFAULT CURRENT_TIMESTAMP(3);

CREATE TABLE IF NOT EXISTS seal (
  id INT UNSIGNED NOT NULL AUTO_INCREMENT,
  -- What is sealed: audit, access, journal, stock.
  kind VARCHAR(10) NOT NULL,
  -- The last row in it; the first is the one after the seal before.
  through_id BIGINT UNSIGNED NOT NULL,
  row_count INT UNSIGNED NOT NULL,
  hash BINARY(32) NOT NULL,
  at DATETIME(3) NOT NULL DEFAULT CURRENT_TIMESTAMP(3),
  PRIMARY KEY (id),
  UNIQUE KEY seal_through (kind, through_id)
);
CREATE OR REPLACE TRIGGER seal_no_update BEFORE UPDATE ON seal FOR EACH ROW
  SIGNAL SQLSTATE '45000' SET MESSAGE_TEXT = 'seal is written once';
CREATE OR REPLACE TRIGGER seal_no_delete BEFORE DELETE ON seal FOR EACH ROW
  SIGNAL SQLSTATE '45000' SET MESSAGE_TEXT = 'seal is written once';

-- Several servers seal one after the other.
CREATE TABLE IF NOT EXISTS seal_turn (
  kind VARCHAR(10) NOT NULL,
  turn INT UNSIGNED NOT NULL DEFAULT 0,
  PRIMARY KEY (kind)
);
INSERT IGNORE INTO seal_turn (kind) VALUES ('audit'), ('access'), ('journal'), ('stock');

-- When its person last did something: a session left alone ends.
ALTER TABLE session ADD COLUMN IF NOT EXISTS seen_at DATETIME(3) NOT NULL DEFAULT CURRENT_TIMESTAMP(3);
-- Which session it was, by the beginning of its token's hash.
ALTER TABLE access_log ADD COLUMN IF NOT EXISTS session_mark CHAR(8) NULL;
