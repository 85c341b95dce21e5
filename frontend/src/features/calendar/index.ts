export { CalendarView } from "./CalendarView";
