export { Walk } from "./Walk";
