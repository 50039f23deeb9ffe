// Paper for daylight, lamp for attics: as the device has it, until one is chosen. The choice is a cookie, so that the next page comes up in it.
export function themeSwitch() {
  return {
    get label() {
      return this.lamp ? "Paper" : "Lamp";
    },
    lamp: (document.documentElement.dataset.theme || (matchMedia("(prefers-color-scheme: dark)").matches ? "lamp" : "paper")) === "lamp",
    toggle() {
      this.lamp = !this.lamp;
      const theme = this.lamp ? "lamp" : "paper";
      document.documentElement.dataset.theme = theme;
      document.cookie = `theme=${theme}; path=/; max-age=31536000; samesite=lax`;
    },
  };
}
