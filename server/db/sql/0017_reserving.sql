-- Whether stock of an item is held for order lines: never, when asked, or at once when an order is confirmed. (S3)
ALTER TABLE item
  ADD COLUMN IF NOT EXISTS reserving ENUM('never','asked','always') NOT NULL DEFAULT 'asked';
