import { table } from '../db';

export const messageTable = table('message', {
  int: 'companyId id= personId documentId',
  text: 'recipient party subject body documentKind documentNumber attachmentName',
  day: 'sentOn',
  time: 'sentAt=',
  bytes: 'attachment',
});

export const messageDraftTable = table('message_draft', {
  int: 'companyId id= personId documentId',
  text: 'recipient party subject body documentKind documentNumber',
  day: 'writtenOn',
});
