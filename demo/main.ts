import { generateDemo } from './generate';

/** Entry of the generator: `demo.mjs FOLDER`; tells its parent how far it is. */
const folder = process.argv[2];
if (!folder) {
  console.error('usage: demo.mjs FOLDER');
  process.exit(2);
}
generateDemo(folder, (share) => process.send?.({ progress: share })).then(
  () => process.exit(0),
  (error: unknown) => {
    console.error(error);
    process.exit(1);
  },
);

// Whoever asked for it is gone: nobody waits for the rest.
process.once('disconnect', () => process.exit(1));
