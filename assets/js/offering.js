// What many places offer alike (instruments, probes, reasons): the page carries it once, and a select gets its options when it is first taken in hand.
export const offering = {
  offer(select) {
    const name = select?.dataset?.offers;
    const list = name && this.form.querySelector(`template[data-offered="${name}"]`);
    if (!list) return;
    delete select.dataset.offers;
    const there = new Set([...select.options].map(({ value }) => value));
    for (const option of list.content.children) if (!there.has(option.value)) select.append(option.cloneNode(true));
  },
  // Chooses what may not be among the options yet.
  choose(select, value) {
    this.offer(select);
    select.value = value;
  },
};
