import "@testing-library/jest-dom/vitest";
import { cleanup, configure } from "@testing-library/react";
import { afterEach } from "vitest";

// A busy machine is no fault: what is waited for may take its time.
configure({ asyncUtilTimeout: 20_000 });
afterEach(cleanup);
