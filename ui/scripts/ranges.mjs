// Writes the ranges of all figures of the contract as TypeScript, so that fields bound what is
// typed as the server does.
import { readFileSync, writeFileSync } from 'node:fs';

const [, , from, to] = process.argv;
const { schemas } = JSON.parse(readFileSync(from, 'utf8')).components;

const lines = [];
for (const [name, schema] of Object.entries(schemas)) {
  const figures = Object.entries(schema.properties ?? {}).flatMap(([field, value]) => {
    const figure = value.anyOf?.find((v) => v.type !== 'null') ?? value;
    // Of a list, what each of its figures lies between.
    const { minimum: min, maximum: max, type } = figure.items ?? figure;
    if (min === undefined || max === undefined) return [];
    const whole = type === 'integer' ? ', whole: true' : '';
    return [`    ${field}: { min: ${min}, max: ${max}${whole} },`];
  });
  if (figures.length > 0) lines.push(`  ${name}: {`, ...figures, '  },');
}

writeFileSync(
  to,
  `// Derived from the contract by \`make contract\`. Do not edit.

/** What the figures of each record lie between, as the server holds them. */
export const ranges = {
${lines.join('\n')}
} as const;
`,
);
