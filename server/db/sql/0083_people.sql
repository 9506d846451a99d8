-- People: let in by a link that holds for some days, put out of use, with a second factor; programs with tokens. (U4)

ALTER TABLE person
  -- A shared secret for time-based codes (RFC 6238), NULL where there is none.
  ADD COLUMN IF NOT EXISTS totp_secret BINARY(20) NULL,
  -- The step of the code that was used last: no code is good twice.
  ADD COLUMN IF NOT EXISTS totp_step BIGINT UNSIGNED NULL;

ALTER TABLE person_role
  -- Works in this company no more; what they did stays theirs.
  ADD COLUMN IF NOT EXISTS out_of_use BOOLEAN NOT NULL DEFAULT FALSE;

CREATE TABLE IF NOT EXISTS invitation (
  company_id SMALLINT UNSIGNED NOT NULL,
  id INT UNSIGNED NOT NULL AUTO_INCREMENT,
  -- SHA-256 of the link's word: a stolen table lets nobody in.
  token_hash BINARY(32) NOT NULL,
  name VARCHAR(120) NOT NULL,
  role_id INT UNSIGNED NOT NULL,
  invited_by INT UNSIGNED NOT NULL,
  created_at DATETIME(3) NOT NULL DEFAULT CURRENT_TIMESTAMP(3),
  expires_at DATETIME(3) NOT NULL,
  -- Who came by it; NULL while nobody did.
  person_id INT UNSIGNED NULL,
  withdrawn BOOLEAN NOT NULL DEFAULT FALSE,
  PRIMARY KEY (company_id, id),
  KEY invitation_id (id),
  UNIQUE KEY invitation_token (token_hash),
  FOREIGN KEY (company_id, role_id) REFERENCES role (company_id, id),
  FOREIGN KEY (invited_by) REFERENCES person (id),
  FOREIGN KEY (person_id) REFERENCES person (id)
);

CREATE TABLE IF NOT EXISTS program_token (
  company_id SMALLINT UNSIGNED NOT NULL,
  id INT UNSIGNED NOT NULL AUTO_INCREMENT,
  -- SHA-256 of the token: it is shown once, and kept nowhere.
  token_hash BINARY(32) NOT NULL,
  name VARCHAR(60) NOT NULL,
  rights LONGTEXT NOT NULL CHECK (JSON_VALID(rights)),
  -- The last day it is good on.
  last_day DATE NOT NULL,
  -- Whose it is: what the program does, they did.
  person_id INT UNSIGNED NOT NULL,
  created_at DATETIME(3) NOT NULL DEFAULT CURRENT_TIMESTAMP(3),
  used_at DATETIME(3) NULL,
  ended BOOLEAN NOT NULL DEFAULT FALSE,
  PRIMARY KEY (company_id, id),
  KEY program_token_id (id),
  UNIQUE KEY program_token_token (token_hash),
  FOREIGN KEY (company_id) REFERENCES company (id),
  FOREIGN KEY (person_id) REFERENCES person (id)
);
