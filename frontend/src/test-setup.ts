import "@testing-library/jest-dom/vitest";
import { cleanup, configure } from "@testing-library/react";
import { afterEach } from "vitest";

// A busy machine is no fault: what is waited for may take its time.
configure({ asyncUtilTimeout: 20_000 });
// All files share one page, which is built once and not thirty times: each test leaves it as it was.
afterEach(() => {
  cleanup();
  localStorage.clear();
  sessionStorage.clear();
});
