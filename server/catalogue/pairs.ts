/**
 * The pair of items `m` of another company's item `i` and ours `o`, and how many of our units are one of theirs: a join
 * with its values in order. // X1
 */
export function pairOf(companyId: number, sisterId: number): { join: string; values: number[]; factor: string } {
  const low = companyId < sisterId;
  const [ours, theirs] = low ? ['m.low_item_id', 'm.high_item_id'] : ['m.high_item_id', 'm.low_item_id'];
  return {
    join: `LEFT JOIN sister_item m ON m.low_id = ? AND m.high_id = ? AND ${theirs} = i.id
           LEFT JOIN item o ON o.company_id = ? AND o.id = ${ours}`,
    values: [Math.min(companyId, sisterId), Math.max(companyId, sisterId), companyId],
    factor: low ? 'COALESCE(ROUND(1 / m.factor, 10), 1)' : 'COALESCE(m.factor, 1)',
  };
}
