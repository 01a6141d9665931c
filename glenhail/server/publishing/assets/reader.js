// The reader's own look at the pixels: two contenders side by side or in place, linked.
"use strict";

const doc = JSON.parse(document.getElementById("document").textContent);
const dialog = document.getElementById("closer");
const byLetter = Object.fromEntries(doc.contenders.map((c) => [c.letter, c]));
const STEPS = [0.25, 0.5, 1, 2, 4, 8];
let view = null;

function make(tag, attributes = {}, ...children) {
  const element = document.createElement(tag);
  for (const [name, value] of Object.entries(attributes)) {
    if (name in element && name !== "style") element[name] = value;
    else element.setAttribute(name, value);
  }
  element.append(...children);
  return element;
}

function letterBox(letter) {
  const box = make("span", { className: "letter", textContent: letter });
  const colour = byLetter[letter].colour;
  if (colour) box.style.background = colour;
  else box.classList.add("outlined");
  return box;
}

function percent(value) {
  return `${Number((100 * value).toPrecision(3))} %`;
}

/** Lay a crop so that frame place (view.x, view.y) stands in the middle of its stage. */
function lay(stage, image, crop) {
  const pixel = view.zoom / crop.scale;
  const left = stage.clientWidth / 2 + (crop.x - view.x) * view.zoom;
  const top = stage.clientHeight / 2 + (crop.y - view.y) * view.zoom;
  image.style.transform = `translate(${left}px, ${top}px) scale(${pixel})`;
  image.classList.toggle("pixels", pixel >= 1);
}

function draw() {
  for (const pane of view.panes) {
    const letter = view.flicking && pane === view.panes[0] ? view.panes[1].letter : pane.letter;
    const crop = view.patch.crops.find((c) => c.letter === letter);
    if (pane.shown !== crop.around) {
      pane.image.src = crop.around;
      pane.shown = crop.around;
    }
    pane.image.width = crop.width;
    pane.image.height = crop.height;
    lay(pane.stage, pane.image, crop);
    pane.head.replaceChildren(
      letterBox(letter),
      make("span", { textContent: [byLetter[letter].title, byLetter[letter].manner].filter(Boolean).join(", ") }),
      make("span", { className: "mono", textContent: `${percent(view.zoom / crop.scale)} of output = ${percent(view.zoom)} of frame` }),
    );
  }
}

function zoomBy(steps) {
  const at = STEPS.findIndex((s) => s >= view.zoom);
  view.zoom = STEPS[Math.min(STEPS.length - 1, Math.max(0, at + steps))];
  draw();
}

function flick(on) {
  view.flicking = on;
  draw();
}

function chooser(pane, label) {
  const select = make("select", { ariaLabel: label });
  for (const crop of view.patch.crops) {
    select.append(make("option", { value: crop.letter, textContent: `${crop.letter} ${byLetter[crop.letter].title}` }));
  }
  select.value = pane.letter;
  select.addEventListener("change", () => {
    pane.letter = select.value;
    draw();
  });
  return select;
}

function dragging(stage) {
  let last = null;
  stage.addEventListener("pointerdown", (event) => {
    last = [event.clientX, event.clientY];
    stage.setPointerCapture(event.pointerId);
  });
  stage.addEventListener("pointermove", (event) => {
    if (!last) return;
    view.x -= (event.clientX - last[0]) / view.zoom;
    view.y -= (event.clientY - last[1]) / view.zoom;
    last = [event.clientX, event.clientY];
    draw();
  });
  stage.addEventListener("pointerup", () => (last = null));
  stage.addEventListener("wheel", (event) => {
    event.preventDefault();
    zoomBy(event.deltaY < 0 ? 1 : -1);
  }, { passive: false });
}

function paneFor(letter) {
  const image = make("img", { alt: "", draggable: false });
  const stage = make("div", { className: "stage" }, image);
  const head = make("header");
  dragging(stage);
  return { letter, image, stage, head, shown: "", element: make("div", { className: "pane" }, head, stage) };
}

function open(index) {
  const patch = doc.patches[index];
  const [x, y, w, h] = patch.rect;
  const letters = patch.crops.map((c) => c.letter);
  const first = letters.includes("U") ? "U" : letters[0];
  const second = letters.find((l) => l !== first && l !== "T") ?? letters.find((l) => l !== first);
  view = { patch, x: x + w / 2, y: y + h / 2, zoom: 2, flicking: false, panes: [paneFor(first), paneFor(second)] };
  const press = make("button", { type: "button", textContent: "Hold to flick" });
  for (const [name, on] of [["pointerdown", true], ["pointerup", false], ["pointerleave", false]]) press.addEventListener(name, () => flick(on));
  const button = (text, act) => {
    const made = make("button", { type: "button", textContent: text });
    made.addEventListener("click", act);
    return made;
  };
  dialog.replaceChildren(
    make("div", { className: "bar" },
      make("strong", { textContent: patch.name }),
      make("span", {}, "Left ", chooser(view.panes[0], "Contender in the left pane")),
      make("span", {}, "Right ", chooser(view.panes[1], "Contender in the right pane")),
      button("Smaller", () => zoomBy(-1)), button("Larger", () => zoomBy(1)), press,
      Object.assign(button("Close", () => dialog.close()), { className: "end" })),
    make("div", { className: "panes", tabIndex: 0, ariaLabel: "The two contenders", role: "group" }, ...view.panes.map((p) => p.element)),
    make("div", { className: "keys", textContent: "Drag or arrow keys to move, + and - for magnification, hold space to see the right one in the left pane." }),
  );
  dialog.showModal();
  dialog.querySelector(".panes").focus();
  draw();
}

dialog.addEventListener("keydown", (event) => {
  const move = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, -1], ArrowDown: [0, 1] }[event.key];
  // A focused list needs its own keys.
  if (event.target.matches("select") && !"+=-".includes(event.key)) return;
  if (move) {
    view.x += (move[0] * 40) / view.zoom;
    view.y += (move[1] * 40) / view.zoom;
    draw();
  } else if (event.key === "+" || event.key === "=") zoomBy(1);
  else if (event.key === "-") zoomBy(-1);
  else if (event.key === " ") flick(true);
  else return;
  event.preventDefault();
});
dialog.addEventListener("keyup", (event) => event.key === " " && view && flick(false));
window.addEventListener("resize", () => dialog.open && draw());
for (const button of document.querySelectorAll("button.look")) button.addEventListener("click", () => open(Number(button.dataset.patch)));

/** The crops of a figure as large as there is room for one, or as they were. */
function enlarge(figure, patch, on) {
  const [, , width, height] = patch.rect;
  const room = Math.min(figure.clientWidth - 12, 1000);
  const fitting = STEPS.filter((m) => width * m <= room && height * m <= 0.7 * innerHeight);
  const times = fitting.at(-1) ?? STEPS[0];
  figure.querySelectorAll(".crop").forEach((crop, i) => {
    const image = crop.querySelector("img");
    crop.was ??= { width: crop.style.width, src: image.getAttribute("src"), srcset: image.srcset, pixels: image.classList.contains("pixels") };
    crop.style.width = on ? `${width * times}px` : crop.was.width;
    // Its own pixels instead of the small form.
    const own = crop.was.srcset.split(", ").at(-1).split(" ")[0];
    image.srcset = on ? "" : crop.was.srcset;
    image.src = on && own ? own : crop.was.src;
    image.loading = "eager";
    image.classList.toggle("pixels", on ? times / patch.crops[i].scale >= 1 : crop.was.pixels);
  });
  const words = figure.querySelector(".times");
  words.was ??= words.textContent;
  words.textContent = on ? `, ${percent(times)} of the subject` : words.was;
}

/** A figure whose crops lie over each other: letters, arrow keys or a held space change which is seen. */
function flickInPlace(figure, button) {
  const crops = [...figure.querySelectorAll(".one")];
  const links = [...figure.querySelectorAll(".strip a")];
  const show = (at) => {
    crops.forEach((crop, i) => crop.classList.toggle("seen", i === at));
    links.forEach((link, i) => (i === at ? link.setAttribute("aria-current", "true") : link.removeAttribute("aria-current")));
  };
  const now = () => crops.findIndex((crop) => crop.classList.contains("seen"));
  const on = () => figure.classList.contains("in-place");
  button.addEventListener("click", () => {
    const places = figure.classList.toggle("in-place");
    button.setAttribute("aria-pressed", String(places));
    button.textContent = places ? "Side by side" : "Flick in place";
    enlarge(figure, doc.patches[button.dataset.patch], places);
    show(places ? 0 : -1);
    if (places) links[0].focus({ preventScroll: true });
  });
  links.forEach((link, i) => {
    for (const kind of ["click", "pointerenter", "focus"])
      link.addEventListener(kind, (event) => {
        if (!on()) return;
        if (kind === "click") event.preventDefault();
        show(i);
      });
  });
  figure.querySelector(".strip").addEventListener("keydown", (event) => {
    const by = { ArrowLeft: -1, ArrowRight: 1 }[event.key];
    if (!on() || !by) return;
    links[(now() + by + links.length) % links.length].focus({ preventScroll: true });
    event.preventDefault();
  });
}
for (const button of document.querySelectorAll("button.flick")) flickInPlace(button.closest("figure"), button);

/** One contender over another: the boundary follows the pointer, or a slider's keys. */
for (const over of document.querySelectorAll(".over")) {
  const at = parseFloat(over.style.getPropertyValue("--at"));
  const names = [...over.querySelectorAll(".name")].map((n) => n.textContent.trim());
  const slider = make("input", { type: "range", min: 0, max: 100, step: 0.5, value: at, ariaLabel: `Boundary between ${names.join(" and ")}` });
  const show = (percent) => over.style.setProperty("--at", `${percent}%`);
  slider.addEventListener("input", () => show(slider.value));
  const crop = over.querySelector(".crop");
  crop.addEventListener("pointermove", (event) => {
    const box = crop.getBoundingClientRect();
    slider.value = (100 * (event.clientX - box.left)) / box.width;
    show(slider.value);
  });
  over.querySelector(".ground").append(slider);
}

// Folded parts are printed, by whatever browser.
const folded = () => document.querySelectorAll("details");
addEventListener("beforeprint", () => folded().forEach((d) => ((d.wasOpen = d.open), (d.open = true))));
addEventListener("afterprint", () => folded().forEach((d) => (d.open = d.wasOpen)));

// An old edition stays as it was; these lines alone say that there is a newer one, and what it
// puts right: at its top, and where it stands.
// A preview has no address yet that others could be newer than.
const told = document.querySelector(".preview") ? Promise.resolve(null) : fetch("editions.json").then((r) => (r.ok ? r.json() : null));
told.then((list) => {
  const newest = list?.editions[0];
  const wrong = list?.corrections ?? [];
  if (!newest || (newest.number <= doc.number && !wrong.length)) return;
  const note = document.getElementById("newer");
  const to = (number, words, anchor = "") => make("a", { href: `../${number}/${anchor}`, textContent: words });
  if (newest.number > doc.number) {
    note.append(`This is edition ${doc.number}. `, to(newest.number, `Edition ${newest.number}`), newest.note ? ` is newer: ${newest.note}` : " is newer.");
  }
  for (const c of wrong) {
    const put = () => [`Wrong here: ${c.text} `, to(c.corrected_in, `Put right in edition ${c.corrected_in}`, "#corrections")];
    note.append(make("span", { className: "wrong" }, `${c.where}. `, ...put()));
    const at = c.anchor && document.getElementById(c.anchor);
    if (at) at.append(make("p", { className: "corrected" }, ...put()));
  }
  note.hidden = false;
}).catch(() => {});
