-- Where parties get their documents, and what was sent to them. Messages are written once.

ALTER TABLE customer ADD COLUMN IF NOT EXISTS email VARCHAR(120) NOT NULL DEFAULT '';
ALTER TABLE vendor ADD COLUMN IF NOT EXISTS email VARCHAR(120) NOT NULL DEFAULT '';

CREATE TABLE IF NOT EXISTS message (
  company_id SMALLINT UNSIGNED NOT NULL,
  id INT UNSIGNED NOT NULL AUTO_INCREMENT,
  sent_at DATETIME(3) NOT NULL DEFAULT CURRENT_TIMESTAMP(3),
  sent_on DATE NOT NULL,
  person_id INT UNSIGNED NOT NULL,
  recipient VARCHAR(120) NOT NULL,
  party VARCHAR(120) NOT NULL,
  subject VARCHAR(200) NOT NULL,
  body TEXT NOT NULL,
  document_kind CHAR(2) NOT NULL,
  document_id INT UNSIGNED NOT NULL,
  document_number VARCHAR(16) NOT NULL,
  attachment_name VARCHAR(80) NOT NULL,
  attachment MEDIUMBLOB NOT NULL,
  PRIMARY KEY (company_id, id),
  KEY message_id (id),
  -- Serves "was this sent, when".
  KEY message_document (company_id, document_kind, document_id),
  FOREIGN KEY (person_id) REFERENCES person (id),
  FOREIGN KEY (company_id) REFERENCES company (id)
);

CREATE OR REPLACE TRIGGER message_no_update BEFORE UPDATE ON message FOR EACH ROW
  SIGNAL SQLSTATE '45000' SET MESSAGE_TEXT = 'message is written once';
CREATE OR REPLACE TRIGGER message_no_delete BEFORE DELETE ON message FOR EACH ROW
  SIGNAL SQLSTATE '45000' SET MESSAGE_TEXT = 'message is written once';

-- Everybody who works here may send documents, to begin with.
UPDATE role SET rights = JSON_ARRAY_APPEND(rights, '$', 'send') WHERE NOT JSON_CONTAINS(rights, '"send"');
