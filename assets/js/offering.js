// The instruments a place offers: the page carries them once, and a select gets its options when it is first taken in hand.
export const offering = {
  offer(select) {
    const kind = select?.dataset?.ofKind;
    const list = kind && this.form.querySelector(`template[data-instruments="${kind}"]`);
    if (!list) return;
    delete select.dataset.ofKind;
    const there = new Set([...select.options].map(({ value }) => value));
    for (const option of list.content.children) if (!there.has(option.value)) select.append(option.cloneNode(true));
  },
  // Chooses what may not be among the options yet.
  choose(select, value) {
    this.offer(select);
    select.value = value;
  },
};
