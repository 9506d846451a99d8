-- What a company wants a second person for, and what waits for one. (G7)
CREATE TABLE IF NOT EXISTS second_person (
  company_id SMALLINT UNSIGNED NOT NULL,
  kind VARCHAR(20) NOT NULL,
  PRIMARY KEY (company_id, kind),
  FOREIGN KEY (company_id) REFERENCES company (id)
);

CREATE TABLE IF NOT EXISTS asked_act (
  company_id SMALLINT UNSIGNED NOT NULL,
  id INT UNSIGNED NOT NULL AUTO_INCREMENT,
  act VARCHAR(60) NOT NULL,
  input LONGTEXT NOT NULL CHECK (JSON_VALID(input)),
  -- What it would do, in words.
  words TEXT NOT NULL,
  person_id INT UNSIGNED NOT NULL,
  asked_at DATETIME(3) NOT NULL DEFAULT CURRENT_TIMESTAMP(3),
  state ENUM('waiting','approved','returned','withdrawn') NOT NULL DEFAULT 'waiting',
  decided_by INT UNSIGNED NULL,
  decided_at DATETIME(3) NULL,
  word VARCHAR(200) NOT NULL DEFAULT '',
  PRIMARY KEY (company_id, id),
  KEY asked_act_id (id),
  -- Serves "what waits" and "what was returned to me".
  KEY asked_act_state (company_id, state, id),
  FOREIGN KEY (company_id) REFERENCES company (id)
);

UPDATE role SET rights = JSON_ARRAY_APPEND(rights, '$', 'approve')
  WHERE name IN ('Order administrator', 'Accounts clerk', 'Sales manager', 'Buyer') AND NOT JSON_CONTAINS(rights, '"approve"');
UPDATE role SET rights = JSON_ARRAY_APPEND(rights, '$', 'upkeep')
  WHERE name = 'Sales manager' AND NOT JSON_CONTAINS(rights, '"upkeep"');
