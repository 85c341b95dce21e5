"use strict";
(() => {
  const data = JSON.parse(document.getElementById("data").textContent);
  const at = (id) => document.getElementById(id);
  const audio = at("audio");
  const SVG = "http://www.w3.org/2000/svg";
  let shown = -1;
  let graph = null;

  /** Left and right hand stand in the two ears of the sound; here they are brought to both, or one is left out. */
  function hands() {
    const wanted = at("hands").value;
    if (!graph && wanted === "both") return;
    if (!graph && window.AudioContext) {
      const context = new AudioContext();
      const source = context.createMediaElementSource(audio);
      const splitter = context.createChannelSplitter(2);
      const merger = context.createChannelMerger(2);
      const left = context.createGain();
      const right = context.createGain();
      source.connect(splitter);
      splitter.connect(left, 0);
      splitter.connect(right, 1);
      for (const hand of [left, right]) for (const ear of [0, 1]) hand.connect(merger, 0, ear);
      merger.connect(context.destination);
      graph = { context, left, right };
    }
    if (!graph) return;
    graph.left.gain.value = wanted === "right" ? 0 : 1;
    graph.right.gain.value = wanted === "left" ? 0 : 1;
    void graph.context.resume();
  }

  function sceneAt(time) {
    let low = 0;
    let high = data.scenes.length - 1;
    while (low < high) {
      const middle = (low + high + 1) >> 1;
      if (data.scenes[middle].t <= time + 0.01) low = middle;
      else high = middle - 1;
    }
    return low;
  }

  const partAt = (time) => data.parts.reduce((found, part) => (part.start <= time + 0.05 ? part : found), data.parts[0]);

  function mark(key) {
    const [middle, y, half] = data.places[key.m];
    const left = key.h === "left";
    const shape = document.createElementNS(SVG, left ? "rect" : "circle");
    const look = left
      ? { x: middle - half, y: y - half, width: 2 * half, height: 2 * half, rx: 2 }
      : { cx: middle, cy: y, r: half + 0.5 };
    for (const [name, value] of Object.entries(look)) shape.setAttribute(name, value);
    const colour = left ? "var(--left)" : "var(--right)";
    shape.setAttribute("fill", key.o ? "var(--white)" : colour);
    shape.setAttribute("stroke", key.o ? colour : "var(--white)");
    shape.setAttribute("stroke-width", key.o ? 3 : 1);
    const rows = [shape];
    if (key.f) {
      const text = document.createElementNS(SVG, "text");
      const size = half > 10 ? 17 : 12;
      text.setAttribute("x", middle);
      text.setAttribute("y", y + 0.35 * size);
      text.setAttribute("text-anchor", "middle");
      text.setAttribute("font-size", size);
      text.setAttribute("font-weight", 700);
      text.setAttribute("fill", key.o ? colour : "var(--white)");
      text.textContent = key.f;
      rows.push(text);
    }
    return rows;
  }

  function draw() {
    const time = audio.currentTime;
    const part = partAt(time);
    if (at("loop").checked && !audio.paused && data.wanted && time >= data.wanted.end - 0.03) audio.currentTime = data.wanted.start;
    at("place").value = time;
    const index = sceneAt(time);
    if (index !== shown) {
      shown = index;
      const scene = data.scenes[index];
      at("marks").replaceChildren(...scene.keys.flatMap(mark));
      at("now").textContent = scene.chord;
      at("then").textContent = scene.then ? `→ ${scene.then}` : "";
      const cells = [];
      if (scene.bar > 0) cells.push(Object.assign(document.createElement("b"), { textContent: scene.bar }));
      for (let i = 0; i < scene.beats; i++)
        cells.push(Object.assign(document.createElement("span"), { textContent: i + 1, className: i === scene.beat ? "now" : "" }));
      at("count").replaceChildren(...cells);
      for (const button of document.querySelectorAll("#rail button"))
        button.setAttribute("aria-current", String(Number(button.dataset.part) === part.number));
    }
    if (!audio.paused) requestAnimationFrame(draw);
  }

  function go(time) {
    audio.currentTime = Math.min(Math.max(0, time), data.end);
    shown = -1;
    draw();
  }

  function bar(step) {
    const starts = data.bars;
    const here = starts.filter((t) => t <= audio.currentTime + 0.02).length - 1;
    go(starts[Math.min(Math.max(0, here + step), starts.length - 1)]);
  }

  at("play").addEventListener("click", () => {
    if (audio.paused) {
      if (at("loop").checked) data.wanted = partAt(audio.currentTime);
      void audio.play();
    } else audio.pause();
  });
  for (const event of ["play", "pause", "ended"])
    audio.addEventListener(event, () => {
      at("play").textContent = audio.paused ? data.words.play : data.words.stop;
      shown = -1;
      draw();
    });
  at("hands").addEventListener("change", hands);
  at("speed").addEventListener("change", () => {
    audio.preservesPitch = true;
    audio.playbackRate = Number(at("speed").value);
  });
  at("loop").addEventListener("change", () => {
    data.wanted = partAt(audio.currentTime);
  });
  at("place").addEventListener("input", () => go(Number(at("place").value)));
  at("back").addEventListener("click", () => bar(-1));
  at("forth").addEventListener("click", () => bar(1));
  for (const button of document.querySelectorAll("#rail button"))
    button.addEventListener("click", () => {
      const part = data.parts.find((p) => p.number === Number(button.dataset.part));
      data.wanted = part;
      go(part.start);
    });
  at("print").addEventListener("click", () => window.print());
  draw();
})();
