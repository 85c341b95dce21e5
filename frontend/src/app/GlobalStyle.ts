import { createGlobalStyle } from "styled-components";
import signs from "./signs.woff";

/** Paper and ink, the same drawing in the dark. Soft ink keeps 5:1 on the ground; left and right differ in lightness too. */
const light = `
  --ground: #f5f0e6;
  --raised: #fbf8f1;
  --ink: #29241d;
  --soft: #645b4c;
  --line: #d9cdb6;
  --contour: #cfc1a5;
  --left: #5a2d5c;
  --left-bank: #e9dde4;
  --right: #a05e08;
  --right-bank: #f4e3c8;
  --river: #5e8c8e;
  --water: #dfe8e2;
  --doubt: #8e3b2e;
  --done: #4d6b3c;
  --on-hand: #fbf8f1;
  --shadow: rgb(60 45 20 / 16%);
  --white-key: #fbf8f1;
  --black-key: #29241d;
  --key-line: #29241d;
`;
const dark = `
  --ground: #211d18;
  --raised: #2b2620;
  --ink: #f0e8d9;
  --soft: #b9ad98;
  --line: #4a4236;
  --contour: #574d3f;
  --left: #c99ccb;
  --left-bank: #3a2c3b;
  --right: #e3a44a;
  --right-bank: #403120;
  --river: #7fb0b1;
  --water: #29332f;
  --doubt: #e8917f;
  --done: #a5c48f;
  --on-hand: #211d18;
  --shadow: rgb(0 0 0 / 40%);
  --white-key: #d8cfbe;
  --black-key: #171310;
  --key-line: #171310;
`;
/** Where the system chooses the colours, drawings take its ink and ground; hands and water keep theirs, light or dark as the system's are. */
const forced = `
  --ground: Canvas;
  --raised: Canvas;
  --ink: CanvasText;
  --soft: CanvasText;
  --line: CanvasText;
`;

export const GlobalStyle = createGlobalStyle`
  @font-face {
    font-family: "Signs";
    src: url(${signs}) format("woff");
    unicode-range: U+2190-2193, U+266D-266F, U+2713, U+ECA3-ECB7;
  }
  :root {
    accent-color: var(--ink);
    color-scheme: light;
    ${light};
  }
  @media (prefers-color-scheme: dark) {
    :root:not([data-theme="light"]) {
      color-scheme: dark;
      ${dark};
    }
  }
  :root[data-theme="dark"] {
    color-scheme: dark;
    ${dark};
  }
  @media (forced-colors: active) {
    :root:root:root {
      ${light};
      ${forced};
    }
    /* What is chosen is framed: grounds and shadows are gone. */
    [aria-pressed="true"], [aria-current]:not([aria-current="false"]), [aria-selected="true"], [data-here="true"] {
      outline: 2px solid Highlight !important;
      outline-offset: 1px;
    }
    button.play {
      border: 2px solid ButtonText !important;
    }
  }
  @media (forced-colors: active) and (prefers-color-scheme: dark) {
    :root:root:root {
      ${dark};
      ${forced};
    }
  }
  *, *::before, *::after {
    box-sizing: border-box;
  }
  html {
    font-size: 16px;
  }
  body {
    margin: 0;
    background: var(--ground);
    color: var(--ink);
    font-family: "Alegreya Sans", "Signs", sans-serif;
    font-size: 1.05rem;
    line-height: 1.4;
  }
  h1, h2, h3 {
    font-family: "Alegreya", "Signs", serif;
    font-weight: 700;
    line-height: 1.15;
    margin: 0;
    text-wrap: balance;
  }
  p {
    margin: 0;
  }
  a {
    color: inherit;
  }
  kbd {
    font: inherit;
  }
  [data-focus-visible], :focus-visible {
    outline: 3px solid var(--river);
    outline-offset: 2px;
    border-radius: 3px;
  }
  @media (prefers-reduced-motion: reduce) {
    *, *::before, *::after {
      transition: none !important;
      animation: none !important;
    }
  }
  @media print {
    :root {
      --ground: #fff;
      --raised: #fff;
    }
    [data-noprint] {
      display: none !important;
    }
  }
`;
