export { HandsView } from "./HandsView";
