-- Of several servers one does what is due by the clock: who writes the row does it.
CREATE TABLE IF NOT EXISTS job_turn (
  job VARCHAR(20) NOT NULL,
  begun_at DATETIME(3) NULL,
  PRIMARY KEY (job)
);
INSERT IGNORE INTO job_turn (job) VALUES ('verify');

UPDATE role SET rights = JSON_ARRAY_APPEND(rights, '$', 'upkeep')
  WHERE name = 'Order administrator' AND NOT JSON_CONTAINS(rights, '"upkeep"');
