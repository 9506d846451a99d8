-- Keepers of lists take turns on a row of their own: on the company's, every act that names the company waited for them.
CREATE TABLE IF NOT EXISTS list_turn (
  company_id SMALLINT UNSIGNED NOT NULL,
  turn INT UNSIGNED NOT NULL DEFAULT 0,
  PRIMARY KEY (company_id)
);
INSERT IGNORE INTO list_turn (company_id) SELECT id FROM company;
ALTER TABLE company DROP COLUMN IF EXISTS turn;
