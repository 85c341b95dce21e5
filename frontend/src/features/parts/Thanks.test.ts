import { expect, it } from "vitest";
import { nameAskers } from "./Thanks";

it.each([
  [[], ""],
  [["@a"], "@a"],
  [["@a", "@b"], "@a and @b"],
  [["@a", "@b", "@c", "@d"], "@a, @b, @c and @d"],
  [["@a", "@b", "@c", "@d", "@e"], "@a, @b, @c and 2 others"],
])("names who asked as they are said: %j", (handles, said) => {
  expect(nameAskers(handles)).toBe(said);
});
