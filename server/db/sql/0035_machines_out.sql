-- Machines of a work centre that cannot run for some days: broken, or in service. (T5 T9)
CREATE TABLE IF NOT EXISTS centre_downtime (
  company_id SMALLINT UNSIGNED NOT NULL,
  id INT UNSIGNED NOT NULL AUTO_INCREMENT,
  work_centre_id INT UNSIGNED NOT NULL,
  first_day DATE NOT NULL,
  last_day DATE NOT NULL,
  machines SMALLINT UNSIGNED NOT NULL CHECK (machines > 0),
  why VARCHAR(60) NOT NULL,
  PRIMARY KEY (company_id, id),
  KEY centre_downtime_id (id),
  -- Serves "what stands still from a day on".
  UNIQUE KEY centre_downtime_day (company_id, work_centre_id, first_day, why),
  FOREIGN KEY (company_id, work_centre_id) REFERENCES work_centre (company_id, id),
  CONSTRAINT centre_downtime_days CHECK (last_day >= first_day)
);
