export { LogLines } from "./LogLines";
export { OpenReports } from "./OpenReports";
export { RecordsSheet } from "./RecordsSheet";
