/** The plan that was opened last in this tab: the rule book shows where its rules speak. */
class Open {
  plan = $state<string | null>(null);
}

export const open = new Open();
