// A private database as npm start has it, in the folder named, until this process is told to end; its owner's URL on
// standard output.
import { startPrivateDatabase } from './private-database.mjs';

const { url, release } = await startPrivateDatabase(process.argv[2]);
console.log(url);
process.on('SIGTERM', () => void release().then(() => process.exit(0)));
setInterval(() => undefined, 60_000);
