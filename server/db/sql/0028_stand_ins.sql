-- Outside parties of the demo: in whose name they act, and the day they acted for last.

INSERT INTO person (sign_in, name, password_hash, active)
SELECT 'stand-in', 'Vendors and markets (stand-in)', '', FALSE FROM DUAL
 WHERE NOT EXISTS (SELECT 1 FROM person WHERE sign_in = 'stand-in');

ALTER TABLE company ADD COLUMN IF NOT EXISTS stood_in_on DATE NULL;
