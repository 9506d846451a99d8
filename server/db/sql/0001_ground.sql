-- Companies, people, sign-in, and what every act writes: numbers, keys, audit, events.

CREATE TABLE IF NOT EXISTS company (
  id SMALLINT UNSIGNED NOT NULL AUTO_INCREMENT,
  code VARCHAR(8) NOT NULL,
  name VARCHAR(120) NOT NULL,
  currency CHAR(3) NOT NULL,
  tint CHAR(7) NOT NULL,
  -- A fixed work date; NULL means the calendar's day.
  work_date DATE NULL,
  -- A drop shipment's vendor invoice waits for the customer's. (P4)
  customer_invoice_first BOOLEAN NOT NULL DEFAULT FALSE,
  demo BOOLEAN NOT NULL DEFAULT FALSE,
  PRIMARY KEY (id),
  UNIQUE KEY company_code (code)
);

CREATE TABLE IF NOT EXISTS person (
  id INT UNSIGNED NOT NULL AUTO_INCREMENT,
  sign_in VARCHAR(60) NOT NULL,
  name VARCHAR(120) NOT NULL,
  password_hash VARCHAR(255) NOT NULL,
  active BOOLEAN NOT NULL DEFAULT TRUE,
  PRIMARY KEY (id),
  UNIQUE KEY person_sign_in (sign_in)
);

CREATE TABLE IF NOT EXISTS role (
  company_id SMALLINT UNSIGNED NOT NULL,
  id INT UNSIGNED NOT NULL AUTO_INCREMENT,
  name VARCHAR(60) NOT NULL,
  -- The rights, as a JSON list of names.
  rights LONGTEXT NOT NULL CHECK (JSON_VALID(rights)),
  PRIMARY KEY (company_id, id),
  KEY role_id (id),
  UNIQUE KEY role_name (company_id, name),
  FOREIGN KEY (company_id) REFERENCES company (id)
);

CREATE TABLE IF NOT EXISTS person_role (
  company_id SMALLINT UNSIGNED NOT NULL,
  person_id INT UNSIGNED NOT NULL,
  role_id INT UNSIGNED NOT NULL,
  PRIMARY KEY (person_id, company_id),
  FOREIGN KEY (person_id) REFERENCES person (id),
  FOREIGN KEY (company_id, role_id) REFERENCES role (company_id, id)
);

CREATE TABLE IF NOT EXISTS session (
  -- SHA-256 of the cookie's token: a stolen table signs nobody in.
  token_hash BINARY(32) NOT NULL,
  person_id INT UNSIGNED NOT NULL,
  company_id SMALLINT UNSIGNED NOT NULL,
  csrf CHAR(43) NOT NULL,
  created_at DATETIME(3) NOT NULL DEFAULT CURRENT_TIMESTAMP(3),
  expires_at DATETIME(3) NOT NULL,
  PRIMARY KEY (token_hash),
  KEY session_expires (expires_at),
  FOREIGN KEY (person_id) REFERENCES person (id),
  FOREIGN KEY (company_id) REFERENCES company (id)
);

-- Failed sign-ins; kept by the rate limiter.
CREATE TABLE IF NOT EXISTS sign_in_attempt (
  `key` VARCHAR(255) NOT NULL,
  points INT NOT NULL DEFAULT 0,
  expire BIGINT UNSIGNED NULL,
  PRIMARY KEY (`key`)
);

CREATE TABLE IF NOT EXISTS number_series (
  company_id SMALLINT UNSIGNED NOT NULL,
  kind CHAR(2) NOT NULL,
  next_serial INT UNSIGNED NOT NULL,
  PRIMARY KEY (company_id, kind),
  FOREIGN KEY (company_id) REFERENCES company (id)
);

-- One row per act done with a key: the same key answers the same and does nothing again. (P2)
CREATE TABLE IF NOT EXISTS act_key (
  company_id SMALLINT UNSIGNED NOT NULL,
  person_id INT UNSIGNED NOT NULL,
  idempotency_key VARCHAR(64) NOT NULL,
  -- SHA-256 of act and input.
  content_hash BINARY(32) NOT NULL,
  answer LONGTEXT NOT NULL DEFAULT '{}' CHECK (JSON_VALID(answer)),
  created_at DATETIME(3) NOT NULL DEFAULT CURRENT_TIMESTAMP(3),
  PRIMARY KEY (company_id, person_id, idempotency_key),
  KEY act_key_created (created_at)
);

CREATE TABLE IF NOT EXISTS audit (
  company_id SMALLINT UNSIGNED NOT NULL,
  id BIGINT UNSIGNED NOT NULL AUTO_INCREMENT,
  at DATETIME(3) NOT NULL DEFAULT CURRENT_TIMESTAMP(3),
  person_id INT UNSIGNED NOT NULL,
  act VARCHAR(40) NOT NULL,
  -- Where the change came from: the request's address.
  origin VARCHAR(64) NOT NULL,
  input LONGTEXT NOT NULL CHECK (JSON_VALID(input)),
  -- The documents made or changed, as a JSON list of {kind, id, number}: also what listening screens are told.
  documents LONGTEXT NOT NULL CHECK (JSON_VALID(documents)),
  PRIMARY KEY (company_id, id),
  KEY audit_id (id),
  FOREIGN KEY (company_id) REFERENCES company (id),
  FOREIGN KEY (person_id) REFERENCES person (id)
);

-- The documents an audit row touched; "who changed this, when" reads (company, kind, document).
CREATE TABLE IF NOT EXISTS audit_document (
  company_id SMALLINT UNSIGNED NOT NULL,
  audit_id BIGINT UNSIGNED NOT NULL,
  kind CHAR(2) NOT NULL,
  document_id INT UNSIGNED NOT NULL,
  -- The document's version after the change; NULL where only its counters moved.
  version INT UNSIGNED NULL,
  PRIMARY KEY (company_id, kind, document_id, audit_id),
  KEY audit_document_audit (company_id, audit_id),
  FOREIGN KEY (company_id, audit_id) REFERENCES audit (company_id, id)
);
