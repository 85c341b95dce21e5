export { Button } from "./Button";
export * from "./draw";
export { KeyboardPicture, type LitKey } from "./KeyboardPicture";
export { KeyCap } from "./KeyCap";
export * from "./keyboard";
export { ErrorNotice, Notice } from "./Notice";
export * from "./notation";
export { nameKey, type Shortcuts, useShortcuts } from "./useShortcuts";
