// check.mjs schema SCHEMA DOCUMENT: whether a document is valid; else the first mistakes.
// check.mjs junit DOCUMENT: the numbers that a reader of test reports gets.
import fs from "node:fs";
import Ajv from "ajv";
import addFormats from "ajv-formats";
import { parse } from "junit2json";

const [what, first, second] = process.argv.slice(2);
const read = (path) => fs.readFileSync(path, "utf8");
if (what === "schema") {
  const validator = new Ajv({ strict: false, unicodeRegExp: false });
  addFormats(validator);
  const validate = validator.compile(JSON.parse(read(first)));
  if (validate(JSON.parse(read(second)))) {
    console.log("valid");
  } else {
    console.log(JSON.stringify(validate.errors.slice(0, 5)));
  }
} else {
  const report = await parse(read(first));
  const cases = report.testsuite.flatMap((suite) => suite.testcase ?? []);
  const having = (key) => cases.filter((one) => one[key]?.length > 0).length;
  const sum = (key) => report.testsuite.reduce((total, suite) => total + (suite[key] ?? 0), 0);
  console.log(JSON.stringify({
    tests: report.tests, failures: report.failures, errors: report.errors, skipped: report.skipped,
    sums: [sum("tests"), sum("failures"), sum("errors"), sum("skipped")],
    cases: [cases.length, having("failure"), having("error"), having("skipped")],
    messages: cases.flatMap((one) => one.failure ?? []).map((failure) => failure.message),
  }));
}
