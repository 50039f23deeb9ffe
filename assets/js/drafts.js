// What is typed but not yet taken survives a reload: one small note per round in this device's storage.
const key = (round) => `draft:${round}`;

export function drafts(round) {
  const read = () => {
    try {
      return JSON.parse(localStorage.getItem(key(round))) ?? {};
    } catch {
      return {};
    }
  };
  const write = (all) => {
    try {
      if (Object.keys(all).length) localStorage.setItem(key(round), JSON.stringify(all));
      else localStorage.removeItem(key(round));
    } catch {
      // Storage may be full or forbidden; the field itself still holds the text.
    }
  };
  return {
    all: read,
    keep: (name, text) => write({ ...read(), [name]: text }),
    forget(name) {
      const { [name]: _, ...rest } = read();
      write(rest);
    },
  };
}
