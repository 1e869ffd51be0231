// The words of diets.
export const diets = {
  matters: "For diets",
  certified: "Its supplier certifies it",
  lives: "Lives by",
  suits: "Must suit",
  title: "Diets",
  none: "by its recipes no diet",
  yes: "by its recipes",
  notKnown: "diets not known",
  not: "not",
  house: "What they mean in this house",
  houseWhat:
    "The words alone do not say it: say what is kept out here, and who said so. Until then nothing suits them.",
  keptOut: "Kept out",
  meatCertified: "Meat only when certified",
  meatAndMilk: "Meat and milk never on one plate",
  by: "Said by",
  define: (diet: string) => `Say what ${diet} means here`,
  drop: "Not offered here",
  caution: "From the recipes only: pans, boards, oil and traces are the kitchen’s to keep apart.",
};
