// What the references make of sources. Each line of the input is JSON: {"path"} or {"source", "language"}; each line of the output
// is {"accepted", "message", "later", "kinds"}: whether one of the references accepts it, what they say, what the compiler of the types
// says of the grammar behind its parser, and how often the tree of the `typescript` package has each kind of node.
const fs = require('fs');
const vm = require('vm');
const path = require('path');

const modules = path.join(__dirname, 'node_modules');
const need = name => require(require.resolve(name, { paths: [modules] }));
const ts = need('typescript');
const acorn = need('acorn');
const tagged = acorn.Parser.extend(need('acorn-jsx')());

const SCRIPT_KINDS = { tsx: ts.ScriptKind.TSX, typescript: ts.ScriptKind.TS, javascript: ts.ScriptKind.JSX };
const LANGUAGES = { ts: 'typescript', mts: 'typescript', cts: 'typescript', tsx: 'tsx' };

const javascript = [
  text => new vm.Script(text),
  text => new vm.SourceTextModule(text),
  text => vm.compileFunction(text.replace(/^#!.*/, '')),
  text => tagged.parse(text, { ecmaVersion: 'latest', sourceType: 'module' }),
  text => tagged.parse(text, { ecmaVersion: 'latest', sourceType: 'script', allowReturnOutsideFunction: true }),
];

function verdict(text, language, wantsKinds) {
  if (language === 'javascript') {
    const messages = [];
    for (const parse of javascript) {
      try {
        parse(text);
        return { accepted: true, kinds: wantsKinds ? kinds(tree(text, language)) : undefined };
      } catch (error) {
        messages.push(error.message);
      }
    }
    return { accepted: false, message: messages.join(' | ') };
  }
  const file = tree(text, language);
  const first = file.parseDiagnostics[0];
  if (!first) {
    return wantsKinds ? { accepted: true, kinds: kinds(file) } : { accepted: true, later: toldLater(file) };
  }
  return { accepted: false, message: ts.flattenDiagnosticMessageText(first.messageText, ' '), at: first.start };
}

// Codes of these thousands are about the grammar; the names that are no names come from its parser too.
const GRAMMAR = new Set([1, 8, 17, 18]);
const MIXED_OPERATORS = 5076;
const NO_NAME = /^Cannot find name(space)? '(#.*|break|case|catch|class|const|continue|debugger|default|delete|do|else|enum|export|extends|false|finally|for|function|if|import|in|instanceof|new|null|return|super|switch|this|throw|true|try|typeof|var|void|while|with)'/;

function toldLater(file) {
  const options = { noLib: true, noResolve: true, target: ts.ScriptTarget.Latest, module: ts.ModuleKind.ESNext };
  const host = {
    getSourceFile: name => (name === file.fileName ? file : undefined),
    getDefaultLibFileName: () => 'lib.d.ts',
    writeFile: () => {},
    getCurrentDirectory: () => '',
    getCanonicalFileName: name => name,
    useCaseSensitiveFileNames: () => true,
    getNewLine: () => '\n',
    fileExists: name => name === file.fileName,
    readFile: () => undefined,
  };
  const program = ts.createProgram([file.fileName], options, host);
  try {
    const texts = program
      .getSemanticDiagnostics(file)
      .map(one => [one.code, ts.flattenDiagnosticMessageText(one.messageText, ' ')]);
    const told = texts.find(([code, text]) => code === MIXED_OPERATORS || GRAMMAR.has(Math.floor(code / 1000)) || NO_NAME.test(text));
    return told && told[1];
  } catch {
    return undefined;
  }
}

function tree(text, language) {
  return ts.createSourceFile(language === 'tsx' ? 'file.tsx' : 'file.ts', text, { languageVersion: ts.ScriptTarget.Latest }, false, SCRIPT_KINDS[language]);
}

// Some kinds have a second name that says where a range of them begins or ends.
const KIND_NAMES = {};
for (const [name, kind] of Object.entries(ts.SyntaxKind)) {
  if (typeof kind === 'number' && !/^(First|Last)/.test(name)) KIND_NAMES[kind] = name;
}

function kinds(file) {
  const counts = {};
  const visit = node => {
    const name = KIND_NAMES[node.kind];
    counts[name] = (counts[name] || 0) + 1;
    ts.forEachChild(node, visit);
  };
  visit(file);
  return counts;
}

function read(file) {
  return fs.readFileSync(file, 'utf8').replace(/^\ufeff/, '');
}

let out = '';
for (const line of fs.readFileSync(0, 'utf8').split('\n').filter(Boolean)) {
  const { path: file, source, language } = JSON.parse(line);
  const text = file === undefined ? source : read(file);
  const named = language || LANGUAGES[file.split('.').pop()] || 'javascript';
  out += JSON.stringify(verdict(text, named, file !== undefined)) + '\n';
}
fs.writeFileSync(1, out);
