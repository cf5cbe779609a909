/** Brings the tables up to date and puts the demo jobs into the database, each one once. */
import { prepare } from '../server/prepare.ts';
import { startFault } from '../../startFault.mjs';

try {
  await prepare((words) => console.log(words));
} catch (fault) {
  console.error(startFault(fault));
  process.exit(1);
}
