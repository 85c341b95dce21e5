export { SurveyView } from "./SurveyView";
