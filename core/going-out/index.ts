export { coverLines, goesNow, isShort, type Coming, type Cover, type GoingGround, type GoingLine } from './cover';
export { sentOut, type SentOut } from './sent';
export { toPick, type Pick } from './pick';
