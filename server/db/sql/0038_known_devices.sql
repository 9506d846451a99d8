-- Devices a person signed in from before: others who guess at the name do not keep them out.
CREATE TABLE IF NOT EXISTS known_device (
  -- SHA-256 of the cookie's token; several people may share a device.
  token_hash BINARY(32) NOT NULL,
  person_id INT UNSIGNED NOT NULL,
  seen_at DATETIME(3) NOT NULL,
  PRIMARY KEY (token_hash, person_id),
  KEY known_device_seen (seen_at),
  FOREIGN KEY (person_id) REFERENCES person (id)
);
