import { Moon, Sun } from "lucide-react";
import { useState } from "react";
import { IconButton } from "./Button";

export function ThemeButton() {
  const [dark, setDark] = useState(document.documentElement.dataset.theme === "dark");
  const turn = () => {
    const theme = dark ? "light" : "dark";
    document.documentElement.dataset.theme = theme;
    localStorage.setItem("tinhalo.theme", theme);
    setDark(!dark);
  };
  return (
    <IconButton label={dark ? "Light theme" : "Dark theme"} onClick={turn}>
      {dark ? <Sun size={17} /> : <Moon size={17} />}
    </IconButton>
  );
}
