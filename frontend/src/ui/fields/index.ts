export { Choice, named, type Option, plain } from "./Choice";
export { Line } from "./Line";
export { leaveField } from "./leaveField";
export { Paragraphs } from "./Paragraphs";
export { Slide } from "./Slide";
export { Tick } from "./Tick";
