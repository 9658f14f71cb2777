// Runs programs that make their choices from a stream of numbers; tells which lines ran and which read a variable without a value.
"use strict";
const readline = require("node:readline");
const vm = require("node:vm");

class Over extends Error {}

function random(seed) {
  let state = (seed * 2654435761 + 12345) >>> 0;
  return () => {
    state = (Math.imul(state, 1664525) + 1013904223) >>> 0;
    return state / 2 ** 32;
  };
}

function run(source, rounds) {
  const ran = new Set();
  const failed = new Set();
  const script = new vm.Script(source, { filename: "program.js" });
  const note = (error) => {
    if (error instanceof Over) throw error;
    const place = /program\.js:(\d+)/.exec(error.name === "ReferenceError" ? error.stack : "");
    if (place) failed.add(Number(place[1]));
  };
  for (let seed = 0; seed < rounds; seed++) {
    const next = random(seed);
    let left = 60;
    const choose = () => {
      if (--left < 0) throw new Over();
      return next() < 0.5;
    };
    const storm = () => {
      if (choose()) throw new Error("storm");
    };
    let steps = 0;
    const hit = (line) => {
      if (++steps > 500) throw new Over();
      ran.add(line);
    };
    try {
      script.runInNewContext({ choose, storm, hit, note, pick: () => Math.floor(next() * 4) });
    } catch (error) {
      if (!(error instanceof Over)) note(error);
    }
  }
  return { ran: [...ran], failed: [...failed] };
}

const lines = readline.createInterface({ input: process.stdin });
lines.on("line", (line) => console.log(JSON.stringify(run(JSON.parse(line), 40))));
