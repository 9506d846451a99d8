-- A planning run is a run as promising again is: over all items or some, until a day. (T11)
ALTER TABLE promise_run
  ADD COLUMN IF NOT EXISTS kind ENUM('again','plan') NOT NULL DEFAULT 'again' AFTER person_id,
  ADD COLUMN IF NOT EXISTS until_day DATE NULL AFTER work_date,
  -- The items asked for, as a list of ids; none for all.
  ADD COLUMN IF NOT EXISTS item_ids LONGTEXT NOT NULL DEFAULT '[]' CHECK (JSON_VALID(item_ids)) AFTER until_day,
  -- What was taken of it: by the place of the proposal, the document it became or changed.
  ADD COLUMN IF NOT EXISTS taken LONGTEXT NOT NULL DEFAULT '{}' CHECK (JSON_VALID(taken)),
  -- Serves "the last run of a kind".
  ADD KEY IF NOT EXISTS promise_run_kind (company_id, kind, id),
  ADD CONSTRAINT IF NOT EXISTS promise_run_until CHECK ((kind = 'plan') = (until_day IS NOT NULL));
ALTER TABLE promise_run CHANGE COLUMN IF EXISTS moved found LONGTEXT NOT NULL DEFAULT '[]' CHECK (JSON_VALID(found));
