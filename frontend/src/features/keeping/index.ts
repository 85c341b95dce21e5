export { KeepingView } from "./KeepingView";
