import { useEffect, useState } from "react";
import { Button } from "./Button";

const ORDER = ["", "light", "dark"] as const;
const WORDS = { "": "as the system", light: "light", dark: "dark" };
type Theme = (typeof ORDER)[number];

function stored(): Theme {
  const value = localStorage.getItem("valley-theme");
  return value === "light" || value === "dark" ? value : "";
}

export function applyTheme(theme: Theme): void {
  if (theme) document.documentElement.dataset.theme = theme;
  else delete document.documentElement.dataset.theme;
}

applyTheme(stored());

/** Paper by day, the same drawing by night. */
export function ThemeChoice() {
  const [theme, setTheme] = useState<Theme>(stored);
  useEffect(() => {
    applyTheme(theme);
    localStorage.setItem("valley-theme", theme);
  }, [theme]);
  return (
    <Button $quiet onPress={() => setTheme(ORDER[(ORDER.indexOf(theme) + 1) % ORDER.length] ?? "")}>
      Paper: {WORDS[theme]}
    </Button>
  );
}
