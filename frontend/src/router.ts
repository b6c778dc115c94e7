import { createRouter } from 'sv-router';
import Home from './rooms/home/Home.svelte';

/** Every address with what it names: `route.params` knows no other names. */
export const { p, navigate, isActive, route } = createRouter({
  '/': Home,
  '/sitters/:id': Home,
  '/read/:id': () => import('./rooms/read/Read.svelte'),
  '/plans/:id': () => import('./rooms/layer/Layer.svelte'),
  '/sheet/:id': () => import('./rooms/layer/Sheet.svelte'),
  '/weigh/:id': () => import('./rooms/weigh/Weigh.svelte'),
  '/pace/:id': () => import('./rooms/pace/Pace.svelte'),
  '/run/:id': () => import('./rooms/pace/Run.svelte'),
  '/class': () => import('./rooms/class/Classes.svelte'),
  '/class/:id': () => import('./rooms/class/Class.svelte'),
  '/board/:id': () => import('./rooms/class/Board.svelte'),
  '/round/:id': () => import('./rooms/class/Round.svelte'),
  '/recap/:id': () => import('./rooms/class/Recap.svelte'),
  '/wear': () => import('./rooms/wear/Wear.svelte'),
  '/wear/:id': () => import('./rooms/wear/Worn.svelte'),
  '/w/:code': () => import('./rooms/wear/Short.svelte'),
  '/trials/:id': () => import('./rooms/wear/Trial.svelte'),
  '/drill': () => import('./rooms/drill/Drill.svelte'),
  '/drill/students': () => import('./rooms/drill/Students.svelte'),
  '/drill/students/:id': () => import('./rooms/drill/Student.svelte'),
  '/drill/sets': () => import('./rooms/drill/Sets.svelte'),
  '/shelf': () => import('./rooms/shelf/Shelf.svelte'),
  '/guide': () => import('./rooms/Guide.svelte'),
  '/house': () => import('./rooms/house/HouseRules.svelte'),
  '*notfound': () => import('./rooms/Lost.svelte'),
});
