"use strict";
// Without this script all places are listed; with it those that have some words.
(function () {
  const field = document.getElementById("filter");
  if (!field) return;
  const text = (place) => {
    const group = place.closest("[data-group]");
    const owner = place.closest("[data-owner]");
    return [owner.dataset.owner, group.querySelector("summary").textContent, place.textContent].join(" ").toLowerCase();
  };
  const places = Array.from(document.querySelectorAll("[data-place]"), (place) => [place, text(place)]);
  const owners = document.querySelectorAll("[data-owner]");
  const groups = Array.from(document.querySelectorAll("[data-group]"), (group) => [group, group.open]);
  const said = document.querySelector("output[for=filter]");
  field.parentElement.hidden = false;
  field.addEventListener("input", function () {
    const words = field.value.toLowerCase().split(/\s+/).filter(Boolean);
    let count = 0;
    for (const [place, text] of places) {
      place.hidden = !words.every((word) => text.includes(word));
      count += place.hidden ? 0 : 1;
    }
    for (const [group, wasOpen] of groups) {
      const has = group.querySelector("[data-place]:not([hidden])") !== null;
      group.hidden = !has;
      group.open = words.length > 0 ? has : wasOpen;
    }
    for (const owner of owners) {
      owner.hidden = owner.querySelector("[data-place]:not([hidden])") === null;
    }
    said.textContent = words.length > 0 ? count + (count === 1 ? " place" : " places") : "";
  });
})();
