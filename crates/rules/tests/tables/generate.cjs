// Writes the tables in `data`: `node generate.cjs FOLDER`, after `npm install`.
const fs = require('fs');
const path = require('path');
const css = require('@webref/css');
const elements = require('@webref/elements');
const { roles, aria } = require('aria-query');

const folder = process.argv[2];
const sorted = list => [...new Set(list)].sort((one, other) => (one < other ? -1 : one > other ? 1 : 0));
const write = (name, head, list) => fs.writeFileSync(path.join(folder, name), `# ${head}\n${sorted(list).join('\n')}\n`);

// Types that are never one word, and those that are any word.
const NO_WORDS = ['angle', 'dimension', 'flex', 'frequency', 'integer', 'length', 'length-percentage', 'number', 'number-zero-one', 'percentage', 'ratio', 'resolution', 'string', 'time', 'url', 'urange', 'zero', 'hash-token', 'number-token'];
const ANY_WORD = ['any-value', 'color', 'color-base', 'custom-ident', 'dashed-ident', 'declaration-value', 'ident', 'ident-token', 'system-color', 'paint'];

// The words in a grammar of values ("CSS Values and Units 4", 2), with those of what it refers to; nothing where it takes any word.
const wordsOf = (syntax, known, open = new Set()) => {
  let text = syntax;
  for (let before = ''; before !== text; ) {
    before = text;
    text = text.replace(/[a-z-]+\([^()]*\)/gi, ' ').replace(/\{[^{}]*\}|\[[-0-9∞a-z.]+,[-0-9∞a-z.]+\]|'[^']*'(?!>)(?<!<'[^']*')/gi, ' ');
  }
  const words = new Set();
  for (const [part, type] of text.matchAll(/<([^<>]*)>|[a-z][a-z-]*/gi)) {
    if (type === undefined) {
      words.add(part.toLowerCase());
      continue;
    }
    const name = type.replace(/\s*\[.*$/, '').trim();
    if (name === '' || NO_WORDS.includes(name) || open.has(name)) continue;
    const next = known.get(name);
    const inner = !ANY_WORD.includes(name) && next && wordsOf(next, known, new Set([...open, name]));
    if (!inner) return undefined;
    inner.forEach(word => words.add(word));
  }
  return words;
};

(async () => {
  const { properties, selectors, atrules, types } = await css.listAll();
  const own = properties.map(one => one.name).filter(name => !name.startsWith('-'));
  write('properties.txt', 'Properties of style sheets, by the index of the specifications of the W3C and the WHATWG.', own);
  const initial = one => one.longhands && one.longhands.length > 0;
  const shorthands = properties.filter(initial).filter(one => !one.name.startsWith('-'));
  write('shorthands.txt', 'Shorthand properties with what each sets, by the same index.', shorthands.map(one => [one.name, ...sorted(one.longhands)].join(' ')));
  const pseudo = selectors.map(one => one.name.replace(/\(.*\)$/, '')).filter(name => /^::?[a-z]/.test(name));
  write('pseudo.txt', 'Pseudo-classes and pseudo-elements, by the same index.', pseudo);
  const descriptors = atrules.flatMap(one => (one.descriptors || []).map(descriptor => descriptor.name));
  write('descriptors.txt', 'Descriptors of at-rules, by the same index.', descriptors.filter(name => !name.startsWith('-')));
  const known = new Map([...types.map(one => [one.name.replace(/^<|>$/g, ''), one.syntax]), ...properties.map(one => [`'${one.name}'`, one.syntax])].filter(([, syntax]) => syntax));
  const worded = properties.filter(one => one.syntax && !one.name.startsWith('-')).map(one => [one.name, wordsOf(one.syntax, known)]);
  // "The anchor-center value", CSS Anchor Positioning Module Level 1, which the index has for two of its four properties.
  worded.filter(([name]) => ['align-items', 'justify-items'].includes(name)).forEach(([, words]) => words.add('anchor-center'));
  const closed = worded.filter(([, words]) => words && words.size > 0);
  write('keywords.txt', 'Properties that take no words but these, by the same index.', closed.map(([name, words]) => [name, ...sorted(words)].join(' ')));
  const all = await elements.listAll();
  const named = Object.entries(all).filter(([from]) => from.startsWith('html'));
  const lines = named.flatMap(([, { elements }]) => elements.map(one => one.name + (one.obsolete ? ' obsolete' : '')));
  write('elements.txt', 'Elements of HTML, by the index of the specifications of the WHATWG and the W3C; those that are not to be used are marked.', lines);
  const concrete = [...roles.entries()].filter(([, one]) => !one.abstract);
  write('roles.txt', 'Roles of WAI-ARIA 1.2, DPUB-ARIA 1.1 and Graphics-ARIA 1.0, each with the attributes that it requires.', concrete.map(([name, one]) => [name, ...sorted(Object.keys(one.requiredProps))].join(' ')));
  const { htmlElementAttributes } = await import('html-element-attributes');
  const attributes = Object.entries(htmlElementAttributes).map(([name, own]) => [name, ...sorted(own)].join(' '));
  write('attributes.txt', 'Attributes of the elements of HTML, and under * those of all, by an index of the standard and of what was before it.', attributes);
  const values = one => (one.values || []).map(String);
  write('aria.txt', 'States and properties of WAI-ARIA 1.2, each with the type of its value and the words it may be.', [...aria.entries()].map(([name, one]) => [name, one.type, ...sorted(values(one))].join(' ')));
})();
