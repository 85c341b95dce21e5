export { LogLines } from "./LogLines";
export { OpenReports } from "./OpenReports";
export { RecordsSheet } from "./RecordsSheet";
export { useTimeSpent } from "./useTimeSpent";
