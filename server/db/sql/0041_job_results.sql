-- How what is done by the clock ended, and how long it took: checks of all that is kept, and copies of it.
CREATE TABLE IF NOT EXISTS job_result (
  id INT UNSIGNED NOT NULL AUTO_INCREMENT,
  job VARCHAR(20) NOT NULL,
  at DATETIME(3) NOT NULL DEFAULT CURRENT_TIMESTAMP(3),
  seconds DECIMAL(9,1) NOT NULL,
  well BOOLEAN NOT NULL,
  -- What differs, or where the copy stands; the first of many.
  found TEXT NOT NULL,
  PRIMARY KEY (id),
  KEY job_result_job (job, id)
);
