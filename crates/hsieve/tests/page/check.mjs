// check.mjs PAGE: opens the report in Chromium without a network, and prints what a reader finds there.
import { chromium } from "playwright-core";

const address = "file://" + process.argv[2];
const browser = await chromium.launch({ executablePath: "/usr/bin/chromium", args: ["--no-sandbox", "--disable-gpu"] });
const told = { requests: [], errors: [], schemes: {} };
const open = async (options, address) => {
  const context = await browser.newContext({ offline: true, ...options });
  const page = await context.newPage();
  page.on("request", (request) => told.requests.push(request.url()));
  page.on("pageerror", (error) => told.errors.push(String(error)));
  await page.goto(address);
  return page;
};

const page = await open({ viewport: { width: 1280, height: 800 } }, address);
told.title = await page.title();
told.figures = Object.fromEntries(await page.$$eval(".figures div", (all) => all.map((one) =>
  [one.querySelector("dt").textContent, one.querySelector("dd").firstChild.textContent.trim()])));
told.tables = await page.$$eval("table", (all) => Object.fromEntries(all.map((table) =>
  [table.caption?.textContent ?? "", [...table.tBodies[0].rows].map((row) => [...row.cells].map((cell) => cell.textContent.trim()))])));
told.places = await page.$$eval("[data-place]", (all) => all.map((one) => one.querySelector("code").textContent));
told.deadLinks = await page.$$eval("a[href^='#']", (all) => all.map((one) => one.getAttribute("href")).filter((to) => !document.querySelector(CSS.escape(to.slice(1)) === "" ? "x" : "#" + CSS.escape(to.slice(1)))));
told.unlabelled = await page.$$eval("input", (all) => all.filter((one) => one.labels.length === 0).length);
told.headings = await page.$$eval("h1, h2, h3", (all) => all.map((one) => Number(one.tagName[1])));
const visible = () => page.$$eval("[data-place]", (all) => all.filter((one) => one.checkVisibility()).length);
await page.fill("#filter", "unused-nothing-has-this");
told.none = await visible();
await page.fill("#filter", "FARES unused");
told.filtered = await visible();
told.said = await page.textContent("output[for=filter]");
await page.fill("#filter", "");
for (const colorScheme of ["light", "dark"]) {
  const one = await open({ colorScheme, viewport: { width: 1280, height: 800 } }, address);
  told.schemes[colorScheme] = await one.evaluate(() => [getComputedStyle(document.body).color, getComputedStyle(document.body).backgroundColor]);
}
const narrow = await open({ viewport: { width: 360, height: 700 } }, address);
told.overflow = await narrow.evaluate(() => document.documentElement.scrollWidth - document.documentElement.clientWidth);
const plain = await open({ javaScriptEnabled: false, viewport: { width: 1280, height: 800 } }, address);
told.withoutScript = await plain.locator("[data-place]").count();
await browser.close();
console.log(JSON.stringify(told));
