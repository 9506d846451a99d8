-- All open lines promised again on a thread of its own: how far it is, and whose day moves. (T9)
CREATE TABLE IF NOT EXISTS promise_run (
  company_id SMALLINT UNSIGNED NOT NULL,
  id INT UNSIGNED NOT NULL AUTO_INCREMENT,
  person_id INT UNSIGNED NOT NULL,
  work_date DATE NOT NULL,
  state ENUM('waiting','running','done','stopped','failed') NOT NULL DEFAULT 'waiting',
  done INT UNSIGNED NOT NULL DEFAULT 0,
  total INT UNSIGNED NOT NULL DEFAULT 0,
  -- When it was last heard of: one whose server died is begun again by another.
  beat_at DATETIME(3) NOT NULL DEFAULT CURRENT_TIMESTAMP(3),
  -- The lines whose day moves: [{lineId, was, is, why}].
  moved LONGTEXT NOT NULL DEFAULT '[]' CHECK (JSON_VALID(moved)),
  PRIMARY KEY (company_id, id),
  KEY promise_run_id (id),
  KEY promise_run_state (state, beat_at),
  FOREIGN KEY (company_id) REFERENCES company (id),
  FOREIGN KEY (person_id) REFERENCES person (id)
);
