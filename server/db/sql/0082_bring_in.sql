-- Files that are brought into kept lists: looked at part by part, then taken part by part, each once. (U2)

CREATE TABLE IF NOT EXISTS bring_in (
  company_id SMALLINT UNSIGNED NOT NULL,
  id INT UNSIGNED NOT NULL AUTO_INCREMENT,
  person_id INT UNSIGNED NOT NULL,
  list VARCHAR(40) NOT NULL,
  file_name VARCHAR(200) NOT NULL,
  state ENUM('looking', 'ready', 'taking', 'taken', 'stopped') NOT NULL DEFAULT 'looking',
  -- The lines that can be taken, without those that cannot.
  good_only BOOLEAN NOT NULL DEFAULT FALSE,
  work_date DATE NOT NULL,
  -- Headings nothing is known of, as a JSON list.
  left_out LONGTEXT NOT NULL CHECK (JSON_VALID(left_out)),
  row_count INT UNSIGNED NOT NULL,
  -- How far it is, in rows.
  done INT UNSIGNED NOT NULL DEFAULT 0,
  fresh INT UNSIGNED NOT NULL DEFAULT 0,
  changed INT UNSIGNED NOT NULL DEFAULT 0,
  alike INT UNSIGNED NOT NULL DEFAULT 0,
  bad INT UNSIGNED NOT NULL DEFAULT 0,
  created_at DATETIME(3) NOT NULL DEFAULT CURRENT_TIMESTAMP(3),
  -- Whoever works at it says so now and then; who is silent for long is gone.
  beat_at DATETIME(3) NULL,
  PRIMARY KEY (company_id, id),
  KEY bring_in_id (id),
  -- Serves what is to be worked at.
  KEY bring_in_state (state, id),
  FOREIGN KEY (company_id) REFERENCES company (id),
  FOREIGN KEY (person_id) REFERENCES person (id)
);

CREATE TABLE IF NOT EXISTS bring_in_part (
  company_id SMALLINT UNSIGNED NOT NULL,
  bring_in_id INT UNSIGNED NOT NULL,
  no INT UNSIGNED NOT NULL,
  -- Lines with their cells by field, as a JSON list.
  content LONGTEXT NOT NULL CHECK (JSON_VALID(content)),
  -- What is wrong with them, or odd, as a JSON list.
  problems LONGTEXT NOT NULL DEFAULT '[]' CHECK (JSON_VALID(problems)),
  -- What it was looked at or taken in.
  done_in ENUM('nothing', 'looking', 'taking') NOT NULL DEFAULT 'nothing',
  PRIMARY KEY (company_id, bring_in_id, no),
  FOREIGN KEY (company_id, bring_in_id) REFERENCES bring_in (company_id, id) ON DELETE CASCADE
);
