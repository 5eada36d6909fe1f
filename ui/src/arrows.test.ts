// @vitest-environment node
import { ESLint } from 'eslint';
import { join } from 'node:path';
import { expect, test } from 'vitest';

const lint = new ESLint({ cwd: join(import.meta.dirname, '..') });

/** What the house rule says of a line in a file of src. */
async function said(file: string, line: string): Promise<string[]> {
  const [result] = await lint.lintText(line, { filePath: join(import.meta.dirname, file) });
  return result!.messages.filter((m) => m.ruleId === 'house/arrows').map((m) => m.message);
}

test.each([
  ['rooms/bench/x.tsx', `import { a } from '../machine/MachineRoom';`, /no other room/],
  ['rooms/bench/x.tsx', `const a = () => import('../machine/MachineRoom');`, /no other room/],
  ['rooms/diagram/editor/x.tsx', `import { a } from '../../bench/work';`, /no other room/],
  ['parts/x.tsx', `export * from '../rooms/bench/work';`, /parts may not import rooms/],
  ['log/x.ts', `import { useState } from 'react';`, /without React/],
  ['log/x.ts', `import { a } from '../parts/keys';`, /log may not import parts/],
  ['api/x.ts', `import { w } from '../words/words';`, /api may not import words/],
])('%s may not have: %s', async (file, line, why) => {
  expect((await said(file, line)).join()).toMatch(why);
});

test.each([
  ['rooms/diagram/editor/x.tsx', `import { a } from '../OrderDialog';`],
  ['rooms/bench/x.tsx', `import { a } from '../../parts/keys';`],
  ['app/x.tsx', `const a = () => import('../rooms/bench/BenchRoom');`],
  ['parts/x.test.tsx', `import { a } from '../testing/app';`],
])('%s may have: %s', async (file, line) => {
  expect(await said(file, line)).toEqual([]);
});
