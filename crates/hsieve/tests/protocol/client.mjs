// Drives the language server with a general client of the protocol, whose types check nothing but whose names, forms and framing are not
// ours. Prints what it saw as JSON; the test beside it compares that with the command line.

import { spawn } from "node:child_process";
import { readFileSync, writeFileSync } from "node:fs";
import { pathToFileURL } from "node:url";
import { join } from "node:path";
import * as p from "vscode-languageserver-protocol/node.js";

const [server, folder, encoding, model, edits] = process.argv.slice(2);
const uri = (name) => pathToFileURL(join(folder, name)).href;
const child = spawn(server, ["lsp"], { cwd: folder, stdio: ["pipe", "pipe", "inherit"] });
const connection = p.createProtocolConnection(child.stdout, child.stdin, console);
const told = new Map();
const waiting = [];
const progress = [];
const registered = [];
const shown = [];

connection.onNotification(p.PublishDiagnosticsNotification.type, (params) => {
  told.set(params.uri, params);
  for (const wait of [...waiting]) wait();
});
connection.onRequest(p.RegistrationRequest.type, (params) => void registered.push(...params.registrations.map((one) => one.method)));
connection.onRequest(p.WorkDoneProgressCreateRequest.type, () => {});
connection.onRequest(p.DiagnosticRefreshRequest.type, () => {});
connection.onRequest(p.ShowDocumentRequest.type, (params) => (shown.push(params), { success: true }));
connection.onRequest(p.ApplyWorkspaceEditRequest.type, () => ({ applied: true }));
connection.onNotification(p.ShowMessageNotification.type, () => {});
connection.onUnhandledNotification((message) => progress.push(message.method));
connection.listen();

function until(isSo) {
  return new Promise((resolve) => {
    const wait = () => {
      if (isSo()) {
        waiting.splice(waiting.indexOf(wait), 1);
        resolve();
      }
    };
    waiting.push(wait);
    wait();
  });
}

function assert(isSo, what) {
  if (!isSo) throw new Error(what);
}

// Small enough to be the same everywhere.
let state = 7;
function random(below) {
  state = (Math.imul(state, 1103515245) + 12345) & 0x7fffffff;
  return (state >> 8) % below;
}

const encode = { "utf-8": (text) => Buffer.byteLength(text), "utf-16": (text) => text.length, "utf-32": (text) => [...text].length }[encoding];

/** The position of an offset in characters. */
function position(characters, offset) {
  let line = 0;
  let start = 0;
  for (let at = 0; at < offset; at++) {
    if (characters[at] === "\n") {
      line += 1;
      start = at + 1;
    }
  }
  return { line, character: encode(characters.slice(start, offset).join("")) };
}

const capabilities = {
  general: { positionEncodings: [encoding] },
  textDocument: { publishDiagnostics: { relatedInformation: true, versionSupport: true }, codeAction: {}, rename: { prepareSupport: true } },
  workspace: { workspaceFolders: true, didChangeWatchedFiles: { dynamicRegistration: true }, workspaceEdit: { documentChanges: true } },
  window: { workDoneProgress: true, showDocument: { support: true } },
};
if (model === "pull") capabilities.textDocument.diagnostic = { dynamicRegistration: false };

const seen = {};
const initialized = await connection.sendRequest(p.InitializeRequest.type, {
  processId: process.pid,
  rootUri: null,
  capabilities,
  workspaceFolders: [{ uri: uri(""), name: "ferry" }],
});
assert(initialized.capabilities.positionEncoding === encoding, "the encoding is agreed on");
await connection.sendNotification(p.InitializedNotification.type, {});

const name = "board.py";
let characters = [...readFileSync(join(folder, name), "utf8")];
const textDocument = { uri: uri(name) };
await connection.sendNotification(p.DidOpenTextDocumentNotification.type, {
  textDocument: { ...textDocument, languageId: "python", version: 1, text: characters.join("") },
});

// Edits at random, several in a message.
let version = 1;
const pieces = ["", "\n", "x = 1\n", "import os\n", "🚢", "é", "(", ")", "'", "    ", "def low(day):\n    return day\n", "tide"];
for (let done = 0; done < Number(edits); ) {
  const contentChanges = [];
  for (let inner = 0; inner <= random(3) && done < Number(edits); inner++, done++) {
    const from = random(characters.length + 1);
    const to = Math.min(characters.length, from + (random(3) === 0 ? random(12) : 0));
    const text = characters.length > 3000 ? "" : pieces[random(pieces.length)];
    contentChanges.push({ range: { start: position(characters, from), end: position(characters, to) }, text });
    characters.splice(from, to - from, ...text);
  }
  version += 1;
  await connection.sendNotification(p.DidChangeTextDocumentNotification.type, { textDocument: { ...textDocument, version }, contentChanges });
}
const text = characters.join("");
writeFileSync(join(folder, "edited"), text);

async function diagnostics() {
  if (model === "pull") {
    const report = await connection.sendRequest(p.DocumentDiagnosticRequest.type, { textDocument });
    const again = await connection.sendRequest(p.DocumentDiagnosticRequest.type, { textDocument, previousResultId: report.resultId });
    assert(again.kind === "unchanged", "nothing changed");
    return report.items;
  }
  await until(() => told.get(textDocument.uri)?.version === version);
  return told.get(textDocument.uri).diagnostics;
}
seen.rules = (await diagnostics()).map((one) => one.code);
// Columns in characters, whatever they were counted in.
const lines = text.split("\n");
seen.places = (await diagnostics()).map((one) => {
  const { line, character } = one.range.start;
  let column = 0;
  while (encode([...(lines[line] ?? "")].slice(0, column).join("")) < character) column += 1;
  return `${line + 1}:${column + 1} ${one.code}`;
});

// Every request of the server, on a text that is known.
version += 1;
const known = "import os\nfrom tides import low\n\nlow(1)\nship = '🚢'; x = 1 \n";
await connection.sendNotification(p.DidChangeTextDocumentNotification.type, { textDocument: { ...textDocument, version }, contentChanges: [{ text: known }] });
const found = await diagnostics();
const at = { line: 0, character: 8 };
const actions = await connection.sendRequest(p.CodeActionRequest.type, { textDocument, range: { start: at, end: at }, context: { diagnostics: found } });
seen.actions = actions.map((one) => one.title);
const all = await connection.sendRequest(p.CodeActionRequest.type, { textDocument, range: { start: at, end: at }, context: { diagnostics: [], only: ["source.fixAll", "source.organizeImports"] } });
seen.source = all.map((one) => one.kind);
seen.hover = (await connection.sendRequest(p.HoverRequest.type, { textDocument, position: at })).contents.kind;
seen.formatting = (await connection.sendRequest(p.DocumentFormattingRequest.type, { textDocument, options: { tabSize: 4, insertSpaces: true } })).length > 0;
const wide = position([...known], [...known].length - 2);
const range = { start: { line: 4, character: 0 }, end: { line: 5, character: 0 } };
const trailing = await connection.sendRequest(p.DocumentRangeFormattingRequest.type, { textDocument, range, options: { tabSize: 4, insertSpaces: true } });
seen.range = trailing.some((one) => one.range.end.line === wide.line);
seen.prepared = (await connection.sendRequest(p.PrepareRenameRequest.type, { textDocument, position: { line: 3, character: 1 } })).placeholder;
const renamed = await connection.sendRequest(p.RenameRequest.type, { textDocument, position: { line: 3, character: 1 }, newName: "ebb" });
seen.renamed = renamed.documentChanges.map((one) => one.textDocument.uri.split("/").pop()).sort();
seen.refused = await connection.sendRequest(p.RenameRequest.type, { textDocument, position: { line: 3, character: 1 }, newName: "1" }).catch((error) => error.message);
const settings = { uri: uri("sieve.toml") };
await connection.sendNotification(p.DidOpenTextDocumentNotification.type, { textDocument: { ...settings, languageId: "toml", version: 1, text: "mesh = \n" } });
const items = await connection.sendRequest(p.CompletionRequest.type, { textDocument: settings, position: { line: 0, character: 7 } });
seen.completion = items.map((one) => one.label);
await connection.sendNotification(p.DidCloseTextDocumentNotification.type, { textDocument: settings });
seen.explained = (await connection.sendRequest(p.ExecuteCommandRequest.type, { command: "sieve.explain", arguments: ["unused-import"] })).rule;
seen.shown = shown.map((one) => one.uri.split("/").pop());
seen.unsure = Array.isArray(await connection.sendRequest(p.ExecuteCommandRequest.type, { command: "sieve.unsure", arguments: [textDocument.uri] }));
await connection.sendRequest(p.ExecuteCommandRequest.type, { command: "sieve.siftProject" });
await connection.sendNotification(p.DidSaveTextDocumentNotification.type, { textDocument });
await connection.sendNotification(p.DidChangeWatchedFilesNotification.type, { changes: [{ uri: uri("tides.py"), type: p.FileChangeType.Changed }] });
await connection.sendNotification(p.DidChangeConfigurationNotification.type, { settings: { hsieve: { held: true } } });
await connection.sendNotification(p.DidChangeWorkspaceFoldersNotification.type, { event: { added: [], removed: [] } });
if (model === "pull") {
  const report = await connection.sendRequest(p.WorkspaceDiagnosticRequest.type, { previousResultIds: [] });
  seen.workspace = report.items.map((one) => one.uri.split("/").pop()).sort();
  const source = new p.CancellationTokenSource();
  const previousResultIds = report.items.map((one) => ({ uri: one.uri, value: one.resultId }));
  const held = connection.sendRequest(p.WorkspaceDiagnosticRequest.type, { previousResultIds }, source.token).catch((error) => error.code);
  source.cancel();
  seen.cancelled = await held;
} else {
  await until(() => told.has(uri("tides.py")));
}
seen.registered = registered;
await connection.sendRequest(p.ShutdownRequest.type);
await connection.sendNotification(p.ExitNotification.type);
seen.status = await new Promise((resolve) => child.on("exit", resolve));
console.log(JSON.stringify(seen));
process.exit(0);
