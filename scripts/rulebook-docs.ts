// Writes the JSON Schemas in docs and the table of fields in docs/rulebooks.md from the schema that reads rulebooks.
import { readFileSync, writeFileSync } from 'node:fs';
import { kitJsonSchema } from '@itchkit/core/document';
import { fieldTable, rulebookJsonSchema } from '@itchkit/core/rulebook';
import { behaviourJsonSchema, groundsJsonSchema, packageJsonSchema } from '@itchkit/core/ship';

const write = (path: string, make: (before: string) => string) => writeFileSync(path, make(readFileSync(path, 'utf8')));

write('docs/kit.schema.json', () => `${JSON.stringify(kitJsonSchema(), null, 1)}\n`);
write('docs/package.schema.json', () => `${JSON.stringify(packageJsonSchema(), null, 1)}\n`);
write('docs/grounds.schema.json', () => `${JSON.stringify(groundsJsonSchema(), null, 1)}\n`);
write('docs/behaviour.schema.json', () => `${JSON.stringify(behaviourJsonSchema(), null, 1)}\n`);
write('docs/rulebook.schema.json', () => `${JSON.stringify(rulebookJsonSchema(), null, 1)}\n`);
write('docs/rulebooks.md', (text) =>
  text.replace(/(<!-- fields -->\n)[\s\S]*(\n<!-- end of fields -->)/, (_, from: string, to: string) => from + fieldTable() + to),
);
