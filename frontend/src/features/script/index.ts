export { ScriptView } from "./ScriptView";
