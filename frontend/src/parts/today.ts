/** Today on this machine's clock, as YYYY-MM-DD: Swedish writes its dates so. */
export function today(): string {
  return new Intl.DateTimeFormat('sv-SE').format(Date.now());
}
