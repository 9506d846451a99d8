-- Who came, who was kept out, who left, and what was taken along as a file: written once, like the audit of acts.
CREATE TABLE IF NOT EXISTS access_log (
  id BIGINT UNSIGNED NOT NULL AUTO_INCREMENT,
  at DATETIME(3) NOT NULL DEFAULT CURRENT_TIMESTAMP(3),
  what VARCHAR(12) NOT NULL,
  -- The name that was tried; of whoever is signed in it is their own.
  name VARCHAR(60) NOT NULL,
  person_id INT UNSIGNED NULL,
  company_id SMALLINT UNSIGNED NULL,
  -- The address it came from, past every trusted proxy.
  origin VARCHAR(64) NOT NULL,
  -- What was taken along, or which company was gone to.
  detail VARCHAR(200) NOT NULL DEFAULT '',
  PRIMARY KEY (id),
  KEY access_log_person (person_id, id)
);

CREATE OR REPLACE TRIGGER access_log_no_update BEFORE UPDATE ON access_log FOR EACH ROW
  SIGNAL SQLSTATE '45000' SET MESSAGE_TEXT = 'access_log is written once';

CREATE OR REPLACE TRIGGER access_log_no_delete BEFORE DELETE ON access_log FOR EACH ROW
  SIGNAL SQLSTATE '45000' SET MESSAGE_TEXT = 'access_log is written once';
