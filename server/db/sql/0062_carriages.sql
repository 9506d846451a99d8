-- Goods under way from one of our places to another. (W6)
-- Where they are meanwhile: a place of every company that no list of places has.
INSERT INTO location (company_id, id, code, name)
  SELECT c.id, 32767, 'UNDER-WAY', 'Under way' FROM company c
   WHERE NOT EXISTS (SELECT 1 FROM location l WHERE l.company_id = c.id AND l.id = 32767);

CREATE OR REPLACE TRIGGER company_has_a_way AFTER INSERT ON company FOR EACH ROW FOLLOWS company_has_a_place
  INSERT INTO location (company_id, id, code, name) VALUES (NEW.id, 32767, 'UNDER-WAY', 'Under way');

-- What left a place for another, and how much of it arrived.
CREATE TABLE IF NOT EXISTS carriage (
  company_id SMALLINT UNSIGNED NOT NULL,
  id INT UNSIGNED NOT NULL AUTO_INCREMENT,
  -- What it left with.
  journal_id INT UNSIGNED NOT NULL,
  item_id INT UNSIGNED NOT NULL,
  from_id SMALLINT UNSIGNED NOT NULL,
  to_id SMALLINT UNSIGNED NOT NULL,
  quantity DECIMAL(18,5) NOT NULL CHECK (quantity > 0),
  arrived DECIMAL(18,5) NOT NULL DEFAULT 0 CHECK (arrived BETWEEN 0 AND quantity),
  -- It never left after all.
  taken_back BOOLEAN NOT NULL DEFAULT FALSE,
  due_date DATE NOT NULL,
  made_by INT UNSIGNED NOT NULL,
  open BOOLEAN AS (NOT taken_back AND arrived < quantity) PERSISTENT,
  PRIMARY KEY (company_id, id),
  KEY carriage_id (id),
  UNIQUE KEY carriage_left (company_id, journal_id),
  -- Serves what is under way of an item, and what is late.
  KEY carriage_item (company_id, item_id, open),
  KEY carriage_open (company_id, open, due_date, id),
  FOREIGN KEY (company_id, journal_id) REFERENCES journal (company_id, id),
  FOREIGN KEY (company_id, item_id) REFERENCES item (company_id, id),
  FOREIGN KEY (company_id, from_id) REFERENCES location (company_id, id),
  FOREIGN KEY (company_id, to_id) REFERENCES location (company_id, id),
  FOREIGN KEY (made_by) REFERENCES person (id)
);

-- What arrived of it with a journal; below nothing what that journal took back.
CREATE TABLE IF NOT EXISTS carriage_arrival (
  company_id SMALLINT UNSIGNED NOT NULL,
  journal_id INT UNSIGNED NOT NULL,
  carriage_id INT UNSIGNED NOT NULL,
  quantity DECIMAL(18,5) NOT NULL,
  PRIMARY KEY (company_id, journal_id),
  KEY carriage_arrival_of (company_id, carriage_id),
  FOREIGN KEY (company_id, journal_id) REFERENCES journal (company_id, id),
  FOREIGN KEY (company_id, carriage_id) REFERENCES carriage (company_id, id)
);
