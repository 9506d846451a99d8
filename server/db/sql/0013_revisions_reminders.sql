-- What changed in an agreement after approval, what it reminds of, and planned calls that release themselves.
-- (A7, A9, A15)

CREATE TABLE IF NOT EXISTS agreement_revision (
  company_id SMALLINT UNSIGNED NOT NULL,
  agreement_id INT UNSIGNED NOT NULL,
  revision SMALLINT UNSIGNED NOT NULL,
  person_id INT UNSIGNED NOT NULL,
  revised_at DATETIME(3) NOT NULL DEFAULT CURRENT_TIMESTAMP(3),
  revised_on DATE NOT NULL,
  reason VARCHAR(200) NOT NULL,
  -- Field by field: [{ what, was, is }].
  changes JSON NOT NULL,
  -- Order lines that were priced anew on purpose.
  repriced INT UNSIGNED NOT NULL DEFAULT 0,
  PRIMARY KEY (company_id, agreement_id, revision),
  FOREIGN KEY (company_id, agreement_id) REFERENCES agreement (company_id, id),
  FOREIGN KEY (person_id) REFERENCES person (id)
);

CREATE OR REPLACE TRIGGER agreement_revision_no_update BEFORE UPDATE ON agreement_revision FOR EACH ROW
  SIGNAL SQLSTATE '45000' SET MESSAGE_TEXT = 'agreement_revision is written once';
CREATE OR REPLACE TRIGGER agreement_revision_no_delete BEFORE DELETE ON agreement_revision FOR EACH ROW
  SIGNAL SQLSTATE '45000' SET MESSAGE_TEXT = 'agreement_revision is written once';

CREATE TABLE IF NOT EXISTS agreement_reminder (
  company_id SMALLINT UNSIGNED NOT NULL,
  id INT UNSIGNED NOT NULL AUTO_INCREMENT,
  agreement_id INT UNSIGNED NOT NULL,
  kind ENUM('days','fulfilled','pace') NOT NULL,
  at_value DECIMAL(8,2) NOT NULL,
  fired_on DATE NULL,
  handled_on DATE NULL,
  PRIMARY KEY (company_id, id),
  KEY agreement_reminder_id (id),
  UNIQUE KEY agreement_reminder_once (company_id, agreement_id, kind, at_value),
  -- Serves Today: fired and not handled.
  KEY agreement_reminder_fired (company_id, handled_on, fired_on),
  FOREIGN KEY (company_id, agreement_id) REFERENCES agreement (company_id, id)
);

-- A private address of a person's calendar feed; only its hash is kept.
CREATE TABLE IF NOT EXISTS calendar_feed (
  company_id SMALLINT UNSIGNED NOT NULL,
  person_id INT UNSIGNED NOT NULL,
  token_hash BINARY(32) NOT NULL,
  made_at DATETIME(3) NOT NULL DEFAULT CURRENT_TIMESTAMP(3),
  PRIMARY KEY (company_id, person_id),
  UNIQUE KEY calendar_feed_token (token_hash),
  FOREIGN KEY (company_id) REFERENCES company (id),
  FOREIGN KEY (person_id) REFERENCES person (id)
);

ALTER TABLE agreement
  -- Planned calls are released so many days ahead; NULL by hand.
  ADD COLUMN IF NOT EXISTS release_ahead_days SMALLINT UNSIGNED NULL,
  -- Where those releases go, and the reference they carry.
  ADD COLUMN IF NOT EXISTS plan_ship_to_id INT UNSIGNED NULL,
  ADD COLUMN IF NOT EXISTS plan_reference VARCHAR(60) NOT NULL DEFAULT '',
  -- Serves the job and the two apart facts on the list.
  ADD KEY IF NOT EXISTS agreement_last_day (company_id, state, last_day),
  ADD CONSTRAINT agreement_plan_ship_to FOREIGN KEY IF NOT EXISTS (company_id, plan_ship_to_id)
    REFERENCES ship_to (company_id, id);

-- The order or purchase a planned call was made into: once.
ALTER TABLE agreement_call
  ADD COLUMN IF NOT EXISTS made_kind CHAR(2) NULL,
  ADD COLUMN IF NOT EXISTS made_id INT UNSIGNED NULL;

-- What the clock does is done in the program's own name; nobody can sign in with it.
INSERT INTO person (sign_in, name, password_hash, active)
SELECT 'kampong', 'Kampong', '', FALSE FROM DUAL WHERE NOT EXISTS (SELECT 1 FROM person WHERE sign_in = 'kampong');

-- The day's rates: how much of the company's currency one unit of another is worth, from that day on.
CREATE TABLE IF NOT EXISTS exchange_rate (
  company_id SMALLINT UNSIGNED NOT NULL,
  currency CHAR(3) NOT NULL,
  day DATE NOT NULL,
  rate DECIMAL(18,8) NOT NULL CHECK (rate > 0),
  PRIMARY KEY (company_id, currency, day),
  FOREIGN KEY (company_id) REFERENCES company (id)
);
