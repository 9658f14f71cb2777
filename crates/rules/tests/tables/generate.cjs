// Writes the tables in `data`: `node generate.cjs FOLDER`, after `npm install`.
const fs = require('fs');
const path = require('path');
const css = require('@webref/css');
const elements = require('@webref/elements');
const { roles, aria } = require('aria-query');

const folder = process.argv[2];
const sorted = list => [...new Set(list)].sort((one, other) => (one < other ? -1 : one > other ? 1 : 0));
const write = (name, head, list) => fs.writeFileSync(path.join(folder, name), `# ${head}\n${sorted(list).join('\n')}\n`);

(async () => {
  const { properties, selectors, atrules } = await css.listAll();
  const own = properties.map(one => one.name).filter(name => !name.startsWith('-'));
  write('properties.txt', 'Properties of style sheets, by the index of the specifications of the W3C and the WHATWG.', own);
  const initial = one => one.longhands && one.longhands.length > 0;
  const shorthands = properties.filter(initial).filter(one => !one.name.startsWith('-'));
  write('shorthands.txt', 'Shorthand properties with what each sets, by the same index.', shorthands.map(one => [one.name, ...sorted(one.longhands)].join(' ')));
  const pseudo = selectors.map(one => one.name.replace(/\(.*\)$/, '')).filter(name => /^::?[a-z]/.test(name));
  write('pseudo.txt', 'Pseudo-classes and pseudo-elements, by the same index.', pseudo);
  const descriptors = atrules.flatMap(one => (one.descriptors || []).map(descriptor => descriptor.name));
  write('descriptors.txt', 'Descriptors of at-rules, by the same index.', descriptors.filter(name => !name.startsWith('-')));
  const all = await elements.listAll();
  const named = Object.entries(all).filter(([from]) => from.startsWith('html'));
  const lines = named.flatMap(([, { elements }]) => elements.map(one => one.name + (one.obsolete ? ' obsolete' : '')));
  write('elements.txt', 'Elements of HTML, by the index of the specifications of the WHATWG and the W3C; those that are not to be used are marked.', lines);
  const concrete = [...roles.entries()].filter(([, one]) => !one.abstract);
  write('roles.txt', 'Roles of WAI-ARIA 1.2, DPUB-ARIA 1.1 and Graphics-ARIA 1.0, each with the attributes that it requires.', concrete.map(([name, one]) => [name, ...sorted(Object.keys(one.requiredProps))].join(' ')));
  const values = one => (one.values || []).map(String);
  write('aria.txt', 'States and properties of WAI-ARIA 1.2, each with the type of its value and the words it may be.', [...aria.entries()].map(([name, one]) => [name, one.type, ...sorted(values(one))].join(' ')));
})();
