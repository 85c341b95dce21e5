export { PartsView } from "./PartsView";
