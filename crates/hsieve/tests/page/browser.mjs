// browser.mjs PAGE SHEETS KEYWORDS: what Chromium says, as JSON: the names of the elements of a page that have a number, the properties that it has, and
// how many rules it finds in each of the sheets that a file lists, and which words of a table of keywords each of its properties takes.
import { readFileSync } from "node:fs";
import { chromium } from "playwright-core";

const browser = await chromium.launch({ executablePath: "/usr/bin/chromium", args: ["--no-sandbox", "--disable-gpu"] });
const context = await browser.newContext({ offline: true });
const page = await context.newPage();
await page.goto("file://" + process.argv[2]);
const client = await context.newCDPSession(page);
await client.send("Accessibility.enable");
await client.send("DOM.enable");
const { root } = await client.send("DOM.getDocument");
const { nodeIds } = await client.send("DOM.querySelectorAll", { nodeId: root.nodeId, selector: "[data-n]" });
const names = {};
for (const nodeId of nodeIds) {
  const { attributes } = await client.send("DOM.getAttributes", { nodeId });
  const number = attributes[attributes.indexOf("data-n") + 1];
  const { nodes } = await client.send("Accessibility.getPartialAXTree", { nodeId, fetchRelatives: false });
  names[number] = nodes[0].ignored ? null : (nodes[0].name?.value ?? "").trim();
}
const kebab = (name) => name.replace(/[A-Z]/g, (letter) => "-" + letter.toLowerCase());
const properties = await page.evaluate(() => Object.keys(Object.getOwnPropertyDescriptors(CSSStyleDeclaration.prototype)).concat([...Object.keys(document.body.style)]));
const sheets = readFileSync(process.argv[3], "utf8").split("\n").filter(Boolean);
const rules = [];
for (const sheet of sheets) {
  rules.push(await page.evaluate((source) => { const sheet = new CSSStyleSheet(); sheet.replaceSync(source); return sheet.cssRules.length; }, readFileSync(sheet, "utf8")));
}
const table = readFileSync(process.argv[4], "utf8").split("\n").filter((line) => line && !line.startsWith("#")).map((line) => line.split(" "));
const words = [...new Set(table.flatMap(([, ...own]) => own))];
const takes = (names, words) => Object.fromEntries(names.map((name) => [name, words.filter((word) => CSS.supports(name, word))]));
const values = await page.evaluate(`(${takes})(${JSON.stringify(table.map(([name]) => name))}, ${JSON.stringify(words)})`);
await browser.close();
console.log(JSON.stringify({ names, properties: [...new Set(properties.map(kebab))], rules, values }));
