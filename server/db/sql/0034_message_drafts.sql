-- Messages that were drafted and wait to be sent: whose promise moved is told so. (T9)
CREATE TABLE IF NOT EXISTS message_draft (
  company_id SMALLINT UNSIGNED NOT NULL,
  id INT UNSIGNED NOT NULL AUTO_INCREMENT,
  written_on DATE NOT NULL,
  person_id INT UNSIGNED NOT NULL,
  recipient VARCHAR(120) NOT NULL,
  party VARCHAR(120) NOT NULL,
  subject VARCHAR(200) NOT NULL,
  body TEXT NOT NULL,
  -- The document that goes with it, as it is on the day it is sent.
  document_kind CHAR(2) NOT NULL,
  document_id INT UNSIGNED NOT NULL,
  document_number VARCHAR(16) NOT NULL,
  PRIMARY KEY (company_id, id),
  KEY message_draft_id (id),
  FOREIGN KEY (person_id) REFERENCES person (id),
  FOREIGN KEY (company_id) REFERENCES company (id)
);
