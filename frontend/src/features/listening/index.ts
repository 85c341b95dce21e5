export { Listening } from "./Listening";
