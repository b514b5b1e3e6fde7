// The wish of whoever sits here, or of the machine.
const wish = localStorage.getItem("tinhalo.theme");
const dark = wish ? wish === "dark" : matchMedia("(prefers-color-scheme: dark)").matches;
document.documentElement.dataset.theme = dark ? "dark" : "light";
