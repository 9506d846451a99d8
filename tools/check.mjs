// Format, lint, types, dependency rules and licences; everything is looked at even where one fails.
import { ensureNodePackages } from './lib/install.mjs';
import { run } from './lib/run.mjs';

const CHECKS = [
  ['format', 'prettier', ['--check', '--log-level=warn', '.']],
  ['lint', 'eslint', ['.', '--max-warnings=0']],
  ['types of server, tests and tools', 'tsc', ['-p', 'tsconfig.json']],
  ['types of the tests of web', 'tsc', ['-p', 'web/tsconfig.tests.json']],
  ['types of web', 'ngc', ['-p', 'web/tsconfig.app.json', '--noEmit']],
  [
    'dependency rules',
    'depcruise',
    [
      'core',
      'api',
      'server',
      'web/src',
      'demo',
      'tools',
      'bench',
      'e2e',
      '--config',
      '.dependency-cruiser.cjs',
      '--output-type',
      'err',
    ],
  ],
  ['licences of the parts', 'tsx', ['tools/parts.ts']],
];

await ensureNodePackages();
const results = await Promise.all([
  checkAll(CHECKS.filter((_, index) => index % 2 === 0)),
  checkAll(CHECKS.filter((_, index) => index % 2 === 1)),
]);
const failed = results.flat();
if (failed.length > 0) {
  console.error(`Not right: ${failed.join(', ')}.`);
  process.exit(1);
}
console.log('Format, lint, types, dependency rules and licences are right.');

async function checkAll(checks) {
  const wrong = [];
  for (const [name, program, args] of checks) {
    await run(`node_modules/.bin/${program}`, args).catch(() => wrong.push(name));
  }
  return wrong;
}
