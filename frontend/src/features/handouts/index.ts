export { HandoutsView } from "./HandoutsView";
