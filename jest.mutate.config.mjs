import config from './jest.config.mjs';

const [unit] = config.projects;
/** The unit tests of one domain of the core, which `npm run mutate` asks about each change it makes there. */
const mutated = {
  ...unit,
  displayName: undefined,
  testEnvironment: '@stryker-mutator/jest-runner/jest-env/node',
  testMatch: [`<rootDir>/src/core/${process.env.FERNMOSS_MUTATED}/**/*.test.ts`],
};
export default mutated;
