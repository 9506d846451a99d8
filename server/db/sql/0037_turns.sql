-- Acts that rely on one row raise its turn: a lock alone does not hold between the nodes of a cluster.
ALTER TABLE company ADD COLUMN IF NOT EXISTS turn INT UNSIGNED NOT NULL DEFAULT 0;
ALTER TABLE customer ADD COLUMN IF NOT EXISTS turn INT UNSIGNED NOT NULL DEFAULT 0;
ALTER TABLE promise_turn ADD COLUMN IF NOT EXISTS turn INT UNSIGNED NOT NULL DEFAULT 0;
