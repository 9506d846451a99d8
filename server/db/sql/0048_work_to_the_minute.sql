-- Work centres are worked in hours, several a day and by weekday, and what is planned holds them minute by minute. (T5)
ALTER TABLE work_centre
  ADD COLUMN IF NOT EXISTS hours VARCHAR(200) NOT NULL DEFAULT '' AFTER machines,
  -- Gone where this stopped in its last step.
  ADD COLUMN IF NOT EXISTS shift_minutes SMALLINT UNSIGNED NOT NULL DEFAULT 0;

-- What was a number of minutes begins at eight, or so that it ends with the day.
UPDATE work_centre
   SET hours = CONCAT(
         LPAD(FLOOR(LEAST(480, 1440 - shift_minutes) / 60), 2, '0'), ':', LPAD(MOD(LEAST(480, 1440 - shift_minutes), 60), 2, '0'), '-',
         LPAD(FLOOR((LEAST(480, 1440 - shift_minutes) + shift_minutes) / 60), 2, '0'), ':',
         LPAD(MOD(LEAST(480, 1440 - shift_minutes) + shift_minutes, 60), 2, '0'))
 WHERE hours = '' AND shift_minutes > 0;

CREATE TABLE IF NOT EXISTS centre_overtime (
  company_id SMALLINT UNSIGNED NOT NULL,
  id INT UNSIGNED NOT NULL AUTO_INCREMENT,
  work_centre_id INT UNSIGNED NOT NULL,
  first_day DATE NOT NULL,
  last_day DATE NOT NULL,
  hours VARCHAR(200) NOT NULL,
  why VARCHAR(60) NOT NULL DEFAULT '',
  PRIMARY KEY (company_id, id),
  KEY centre_overtime_id (id),
  -- Serves "what is worked besides from a day on".
  UNIQUE KEY centre_overtime_day (company_id, work_centre_id, first_day, hours),
  FOREIGN KEY (company_id, work_centre_id) REFERENCES work_centre (company_id, id),
  CONSTRAINT centre_overtime_days CHECK (last_day >= first_day)
);

ALTER TABLE routing_operation
  -- The days an order may start on for the operation to be done. (T4)
  ADD COLUMN IF NOT EXISTS first_day DATE NULL,
  ADD COLUMN IF NOT EXISTS last_day DATE NULL;

CREATE TABLE IF NOT EXISTS centre_hold (
  company_id SMALLINT UNSIGNED NOT NULL,
  work_centre_id INT UNSIGNED NOT NULL,
  day DATE NOT NULL,
  planned_operation_id INT UNSIGNED NOT NULL,
  from_minute SMALLINT NOT NULL CHECK (from_minute >= 0),
  until_minute SMALLINT NOT NULL,
  machines SMALLINT NOT NULL CHECK (machines > 0),
  minutes INT AS ((until_minute - from_minute) * machines) PERSISTENT,
  PRIMARY KEY (company_id, work_centre_id, day, planned_operation_id, from_minute, until_minute),
  KEY centre_hold_operation (company_id, planned_operation_id),
  FOREIGN KEY (company_id, work_centre_id) REFERENCES work_centre (company_id, id),
  FOREIGN KEY (company_id, planned_operation_id) REFERENCES planned_operation (company_id, id),
  CONSTRAINT centre_hold_hours CHECK (until_minute > from_minute AND until_minute <= 1440)
);

-- Gone likewise.
CREATE TABLE IF NOT EXISTS centre_load (
  company_id SMALLINT UNSIGNED NOT NULL,
  work_centre_id INT UNSIGNED NOT NULL,
  day DATE NOT NULL,
  planned_operation_id INT UNSIGNED NOT NULL,
  minutes INT UNSIGNED NOT NULL
);

-- What was held of a day is laid one after the other on its machines, each from the start of its shift; what a day could
-- not hold stands beside the last.
INSERT INTO centre_hold
  (company_id, work_centre_id, day, planned_operation_id, from_minute, until_minute, machines)
WITH RECURSIVE lane AS (SELECT 0 AS n UNION ALL SELECT n + 1 FROM lane WHERE n < 399),
held AS (
  SELECT l.company_id, l.work_centre_id, l.day, l.planned_operation_id, CAST(l.minutes AS SIGNED) AS minutes,
         CAST(IF(w.shift_minutes = 0, 1440, w.shift_minutes) AS SIGNED) AS shift,
         CAST(SUM(l.minutes) OVER (PARTITION BY l.company_id, l.work_centre_id, l.day ORDER BY l.planned_operation_id) AS SIGNED) AS upto
    FROM centre_load l JOIN work_centre w ON w.company_id = l.company_id AND w.id = l.work_centre_id),
laid AS (
  SELECT h.company_id, h.work_centre_id, h.day, h.planned_operation_id,
         LEAST(480, 1440 - h.shift) + GREATEST(h.upto - h.minutes - n * h.shift, 0) AS from_minute,
         LEAST(480, 1440 - h.shift) + LEAST(h.upto - n * h.shift, h.shift) AS until_minute
    FROM held h JOIN lane ON n * h.shift < h.upto AND (n + 1) * h.shift > h.upto - h.minutes)
SELECT company_id, work_centre_id, day, planned_operation_id, from_minute, until_minute, COUNT(*)
  FROM laid GROUP BY company_id, work_centre_id, day, planned_operation_id, from_minute, until_minute
ON DUPLICATE KEY UPDATE machines = VALUES(machines);

DROP TABLE IF EXISTS centre_load;
ALTER TABLE work_centre DROP COLUMN IF EXISTS shift_minutes;
