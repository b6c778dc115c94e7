import { api, ask, type Schemas } from '../../api/client';
import { tried } from '../../parts/tried';
import { navigate } from '../../router';

/** A base was put on: its record is begun, and opened. */
export async function putOn(planId: string, body: Schemas['WornBody']): Promise<void> {
  const begun = await tried(
    ask(api.POST('/api/sequences/{id}/wears', { params: { path: { id: planId } }, body })),
  );
  if (begun) await navigate('/wear/:id', { params: { id: begun.wear_id } });
}
