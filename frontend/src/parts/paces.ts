/** Whose hands, by how many times a practised hand's seconds they take; a student's pace is the house's. */
export function pacesOf(student: number): { id: string; words: string }[] {
  return [
    { id: '1', words: 'A practised hand' },
    { id: String(student), words: `A student, ${student} times as long` },
    {
      id: String(Math.min(student * 1.5, 5)),
      words: `A beginner, ${Math.min(student * 1.5, 5)} times as long`,
    },
  ].filter((each, place, all) => all.findIndex((other) => other.id === each.id) === place);
}
