-- What a party reads: its papers and letters are in it. (ISO 639-1)
ALTER TABLE customer ADD COLUMN IF NOT EXISTS language ENUM('en','ms') NOT NULL DEFAULT 'en';
ALTER TABLE vendor ADD COLUMN IF NOT EXISTS language ENUM('en','ms') NOT NULL DEFAULT 'en';

-- What a company writes at the end of a kind of document, by language.
CREATE TABLE IF NOT EXISTS paper_text (
  company_id SMALLINT UNSIGNED NOT NULL,
  id INT UNSIGNED NOT NULL AUTO_INCREMENT,
  document_kind ENUM('SO','PO','SH','CI','CN') NOT NULL,
  language ENUM('en','ms') NOT NULL,
  words VARCHAR(500) NOT NULL,
  PRIMARY KEY (company_id, id),
  KEY paper_text_id (id),
  UNIQUE KEY paper_text_of (company_id, document_kind, language),
  FOREIGN KEY (company_id) REFERENCES company (id)
);
