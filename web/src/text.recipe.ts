// The words of reading recipes through.
export const recipe = {
  read: "Read recipes through",
  title: "Recipes, read through",
  what: "What is in a recipe is known when it was entered and somebody has said that it is complete. Read what stands here, mend what is wrong, and sign it.",
  caution:
    "From the recipes only: traces, boards, tools and oil are the kitchen’s to keep apart; follow local law.",
  who: "Who has read them",
  choose: "choose",
  sign: (n: number) =>
    n === 1 ? "I have read it: it is complete" : `I have read these ${n}: they are complete`,
  notEntered: "recipe not entered",
  unsigned: "nobody has said that it is complete",
  changed: (by: string, day: string) => `changed since ${by} read it on ${day}`,
  signed: (by: string, day: string) => `complete, said ${by}, ${day}`,
  suggests: (word: string, allergen: string) => `“${word}” suggests ${allergen}, and nobody said it`,
  inStep: "in a step",
  inName: "in the name",
  none: "none in the recipe",
  allRead: "All of it is read and signed.",
  components: "Components",
};
