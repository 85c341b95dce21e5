import { screen, within } from "@testing-library/react";
import userEvent from "@testing-library/user-event";

/** For tests: opens the list that is named so and takes what is named so in it. */
export async function choose(
  label: string,
  words: string | RegExp,
  inside: HTMLElement = document.body,
): Promise<void> {
  await userEvent.click(choice(label, inside));
  await userEvent.click(await screen.findByRole("option", { name: words }));
}

/** The closed list that is named so; its name is what is chosen, and then its label. */
export const choice = (label: string, inside: HTMLElement = document.body): HTMLElement =>
  within(inside).getByRole("button", { name: (name) => name.endsWith(label) });
