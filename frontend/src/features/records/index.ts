export { RecordsSheet } from "./RecordsSheet";
export { useTimeSpent } from "./useTimeSpent";
