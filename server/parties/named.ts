/** A party as reads name its columns: `p.id AS party_id, p.number AS party_number, p.name AS party_name`. */
export interface PartyColumns {
  partyId: number;
  partyNumber: string;
  partyName: string;
}

export const partyOf = ({ partyId, partyNumber, partyName }: PartyColumns) => ({
  id: partyId,
  number: partyNumber,
  name: partyName,
});
