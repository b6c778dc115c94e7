import type { ClassShown } from '../../api/client';
import { hour, spoken } from './hours';

/** One stretch of a lane: what somebody does, in which block (from 0; none in a break). */
export interface Stretch {
  key: string;
  from: number;
  to: number;
  kind: 'show' | 'practise' | 'check' | 'turn' | 'wait' | 'watch' | 'observe' | 'break' | 'block';
  block: number | null;
  says: string;
  title: string;
  /** The step that a block of the lesson begins with, where it can be dragged. */
  step?: string;
}

export interface Lane {
  id: string;
  group: string;
  words: string;
  stretches: Stretch[];
}

const WORDS: Record<string, string> = {
  watch: 'Watches',
  turn: 'Turn',
  practise: 'Practises',
  wait: 'Waits',
  check: 'Checked',
  observe: 'Observes',
  break: 'Break',
};
const PHASES = { demonstrate: 'Show', practise: 'Practise', break: 'Break' } as const;

/** The name of a block: its number and what it is. */
export function blockWords(found: ClassShown, block: number): string {
  return `${block + 1} ${found.lesson.blocks.filter((each) => each.phase === 'demonstrate')[block]?.words ?? ''}`;
}

/** The lanes of a class: the lesson itself, educators, stations and students. */
export function lanesOf(found: ClassShown): Lane[] {
  const at = (seconds: number) => hour(found.room.start, seconds, found.jumps);
  const told = (from: number, to: number, words: string) =>
    `${at(from)} to ${at(to)}, ${spoken(to - from)}: ${words}`;
  let block = -1;
  const lesson: Stretch[] = found.lesson.blocks.map((phase) => {
    if (phase.phase === 'demonstrate') block += 1;
    const own = phase.phase === 'break' ? null : block;
    const says = own === null ? 'Break' : `${PHASES[phase.phase]} ${blockWords(found, own)}`;
    return {
      key: `${phase.phase} ${phase.steps[0]}`,
      from: phase.start_s,
      to: phase.end_s,
      kind: phase.phase === 'break' ? 'break' : phase.phase === 'demonstrate' ? 'show' : 'block',
      block: own,
      says,
      title: told(phase.start_s, phase.end_s, says),
      ...(phase.phase === 'demonstrate' ? { step: phase.steps[0] ?? '' } : {}),
    };
  });
  const educators: Lane[] = found.lesson.educators.map((own, place) => ({
    id: `educator ${place}`,
    group: 'Educators',
    words: found.lesson.educators.length > 1 ? `Educator ${place + 1}` : 'Educator',
    stretches: own.map((each) => {
      const says =
        each.what === 'check'
          ? `${each.student}, station ${each.station}`
          : each.what === 'show'
            ? `Shows ${blockWords(found, each.block ?? 0)}`
            : 'Break';
      return {
        key: `${each.what} ${each.start_s} ${each.student}`,
        from: each.start_s,
        to: each.end_s,
        kind: each.what,
        block: each.block,
        says: each.what === 'check' ? each.student : says,
        title: told(each.start_s, each.end_s, each.what === 'check' ? `checks ${says}` : says),
      };
    }),
  }));
  const stations = new Map<number, Stretch[]>();
  const students: Lane[] = found.lesson.students.map((student) => {
    const stretches = student.tasks.map((task) => {
      const words = WORDS[task.what] ?? task.what;
      const about = task.block === null ? '' : ` ${blockWords(found, task.block)}`;
      const whom = task.whom ? ` ${task.whom}` : '';
      const item = task.item ? ` at the ${task.item}` : '';
      const where = task.station ? `, station ${task.station}` : '';
      return {
        key: `${task.what} ${task.start_s}`,
        from: task.start_s,
        to: task.end_s,
        kind: task.what,
        block: task.block,
        says: task.what === 'practise' ? `Station ${task.station}` : `${words}${whom}`,
        title: told(
          task.start_s,
          task.end_s,
          `${student.name} ${words.toLowerCase()}${whom}${item}${about}${where}`,
        ),
      } satisfies Stretch;
    });
    for (const station of new Set(student.tasks.map((task) => task.station))) {
      if (station === null) continue;
      const blocks = new Set(student.tasks.filter((t) => t.station === station).map((t) => t.block));
      for (const own of blocks) {
        const held = student.tasks.filter((task) => task.station === station && task.block === own);
        const [from, to] = [held[0]!.start_s, held.at(-1)!.end_s];
        const stretch: Stretch = {
          key: `${student.name} ${from}`,
          from,
          to,
          kind: 'practise',
          block: own,
          says: student.name,
          title: told(from, to, `${student.name} at station ${station}, ${blockWords(found, own ?? 0)}`),
        };
        stations.set(station, [...(stations.get(station) ?? []), stretch]);
      }
    }
    return { id: `student ${student.name}`, group: 'Students', words: student.name, stretches };
  });
  const places = Array.from({ length: found.room.stations }, (_, place) => ({
    id: `station ${place + 1}`,
    group: 'Stations',
    words: `Station ${place + 1}`,
    stretches: [...(stations.get(place + 1) ?? [])].sort((a, b) => a.from - b.from),
  })).filter((lane) => lane.stretches.length);
  return [
    { id: 'lesson', group: 'Lesson', words: 'Everybody', stretches: lesson },
    ...educators,
    ...places,
    ...students,
  ];
}
