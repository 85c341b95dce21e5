export { ShelfView } from "./ShelfView";
