/** What a file that is brought in may hold, and cost to be read: what is above is refused, whatever it unpacks to. */
export const READ_BOUNDS = {
  /** Rows, the heading and empty ones too. */
  rows: 10_001,
  columns: 200,
  /** Bytes of one record of CSV. */
  record: 65_536,
  /** Letters of one cell of a workbook. */
  cell: 32_767,
  /** Bytes of a workbook's parts once they are unpacked. */
  unpacked: 40_000_000,
  /** Parts of a workbook. */
  parts: 2_000,
} as const;

/** What a thread may take to read one file. */
export const READ_COSTS = { megabytes: 256, seconds: 20 };
