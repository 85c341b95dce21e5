/** What is written is kept when its field is left: Enter leaves it. */
export const leaveField = (): void => {
  if (document.activeElement instanceof HTMLElement) document.activeElement.blur();
};
