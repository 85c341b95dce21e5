export { PostView } from "./PostView";
