// The page's filter, its keys and its colours. Everything is in the page already; nothing is fetched.
"use strict";
(() => {
  const items = [...document.querySelectorAll(".item")];
  const filter = document.getElementById("filter");
  const shown = document.getElementById("shown");
  const kinds = [...document.querySelectorAll("input[name=kind]")];
  const groups = [...document.querySelectorAll(".group")];
  const apply = () => {
    const words = (filter ? filter.value : "").toLowerCase().split(/\s+/).filter(Boolean);
    const wanted = new Set(kinds.filter((one) => one.checked).map((one) => one.value));
    let count = 0;
    for (const item of items) {
      const text = item.textContent.toLowerCase();
      const kind = item.dataset.kind || "";
      item.hidden = !words.every((word) => text.includes(word)) || (kinds.length > 0 && !wanted.has(kind));
      if (!item.hidden) count += 1;
    }
    for (const group of groups) group.hidden = !group.querySelector(".item:not([hidden])");
    if (shown) shown.textContent = `${count} of ${items.length} shown`;
  };
  if (filter) filter.addEventListener("input", apply);
  for (const one of kinds) one.addEventListener("change", apply);
  const step = (by) => {
    const seen = items.filter((item) => !item.hidden);
    if (seen.length === 0) return;
    const at = seen.indexOf(document.activeElement);
    const next = at < 0 ? (by > 0 ? 0 : seen.length - 1) : Math.min(Math.max(at + by, 0), seen.length - 1);
    seen[next].focus();
  };
  const root = document.documentElement;
  const dark = () => root.dataset.theme ? root.dataset.theme === "dark" : matchMedia("(prefers-color-scheme: dark)").matches;
  const turn = () => { root.dataset.theme = dark() ? "light" : "dark"; };
  const button = document.getElementById("theme");
  if (button) button.addEventListener("click", turn);
  document.addEventListener("keydown", (event) => {
    if (event.ctrlKey || event.altKey || event.metaKey) return;
    if (event.key === "Escape" && filter && document.activeElement === filter) {
      filter.value = "";
      apply();
      filter.blur();
      return;
    }
    if (/^(INPUT|TEXTAREA)$/.test(document.activeElement.tagName) && document.activeElement.type !== "checkbox") return;
    if (event.key === "/" && filter) { event.preventDefault(); filter.focus(); }
    if (event.key === "j") step(1);
    if (event.key === "k") step(-1);
    if (event.key === "d") turn();
  });
  apply();
})();
