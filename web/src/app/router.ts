import { createRouter, createWebHistory } from 'vue-router'

import { api, ApiError, must, queryClient } from '@/api/client'
import { keys } from '@/api/keys'
import { adoptUnsent, rememberPerson } from '@/parts/unsent'

import { steps } from './steps'

declare module 'vue-router' {
  interface RouteMeta {
    /** Needs nobody to be signed in. */
    open?: boolean
    /** Has the whole screen to itself: no frame around it. */
    bare?: boolean
    title?: string
  }
}

export const router = createRouter({
  history: createWebHistory(),
  routes: [
    {
      path: '/sign-in',
      name: 'sign-in',
      component: () => import('@/views/signin/SignIn.vue'),
      meta: { open: true, title: 'Sign in' },
    },
    {
      path: '/first-run',
      name: 'first-run',
      component: () => import('@/views/signin/FirstRun.vue'),
      meta: { open: true, title: 'First run' },
    },
    { path: '/', name: 'squad', component: () => import('@/views/squad/Squad.vue'), meta: { title: 'Squad' } },
    ...steps.map((s) => ({
      path: `/golfers/:id/${s.path}`,
      name: s.name,
      component: s.component,
      props: true,
      meta: { title: s.title },
    })),
    {
      path: '/golfers/:id/force/page',
      name: 'force-page',
      component: () => import('@/views/force/InstructorPage.vue'),
      props: true,
      meta: { title: 'For the swing instructor' },
    },
    {
      path: '/golfers/:id/programme/:programmeId/card/:sessionId',
      name: 'card',
      component: () => import('@/views/card/SessionCard.vue'),
      props: true,
      meta: { title: 'Session card' },
    },
    {
      path: '/golfers/:id/compare',
      name: 'compare',
      component: () => import('@/views/programme/Compare.vue'),
      props: true,
      meta: { title: 'Compare schools' },
    },
    {
      path: '/group-warmup',
      name: 'group-warmup',
      component: () => import('@/views/warmup/GroupWarmUp.vue'),
      meta: { title: 'Warm-up for a group' },
    },
    { path: '/today', name: 'today', component: () => import('@/views/today/Today.vue'), meta: { title: 'Today' } },
    {
      path: '/golfers/:id/floor/:sessionId',
      name: 'run',
      component: () => import('@/views/floor/Run.vue'),
      props: true,
      meta: { title: 'Session', bare: true },
    },
    {
      path: '/golfers/:id/load',
      name: 'load',
      component: () => import('@/views/floor/Load.vue'),
      props: true,
      meta: { title: 'Load' },
    },
    {
      path: '/classes/plan',
      name: 'plan-class',
      component: () => import('@/views/classes/PlanClass.vue'),
      meta: { title: 'Plan a class' },
    },
    {
      path: '/classes/:classId',
      name: 'class',
      component: () => import('@/views/classes/Board.vue'),
      props: true,
      meta: { title: 'Class', bare: true },
    },
    {
      path: '/classes/:classId/wall',
      name: 'wall',
      component: () => import('@/views/classes/Wall.vue'),
      props: true,
      meta: { title: 'Class, for the wall', bare: true },
    },
    { path: '/days', name: 'days', component: () => import('@/views/days/Days.vue'), meta: { title: 'Screen days' } },
    {
      path: '/days/plan',
      name: 'plan-day',
      component: () => import('@/views/days/PlanDay.vue'),
      meta: { title: 'Plan a screen day' },
    },
    {
      path: '/days/:dayId',
      name: 'day',
      component: () => import('@/views/days/Day.vue'),
      props: true,
      meta: { title: 'Screen day' },
    },
    {
      path: '/days/:dayId/stations/:station(\\d+)',
      name: 'station',
      component: () => import('@/views/days/Station.vue'),
      props: (r) => ({ dayId: r.params.dayId, station: Number(r.params.station) }),
      meta: { title: 'Station' },
    },
    { path: '/tests', name: 'tests', component: () => import('@/views/tests/Tests.vue'), meta: { title: 'Tests' } },
    {
      path: '/repeats',
      name: 'repeats',
      component: () => import('@/views/repeats/Repeats.vue'),
      meta: { title: 'How sure' },
    },
    {
      path: '/method',
      name: 'method',
      component: () => import('@/views/method/Method.vue'),
      meta: { title: 'Schools and rules' },
    },
    {
      path: '/practice',
      name: 'practice',
      component: () => import('@/views/practice/Practice.vue'),
      meta: { title: 'The practice' },
    },
    { path: '/files', name: 'files', component: () => import('@/views/files/Files.vue'), meta: { title: 'Files' } },
    { path: '/:rest(.*)*', redirect: '/' },
  ],
})

router.beforeEach(async (to) => {
  if (to.meta.open) return true
  try {
    const known = queryClient.getQueryData(keys.session())
    const session = await queryClient.ensureQueryData({
      queryKey: keys.session(),
      queryFn: () => must(api.GET('/session')),
    })
    // The page was opened signed in: what an earlier version kept unsent is this person's.
    if (!known) adoptUnsent(session.id)
    rememberPerson(session.id)
    return true
  } catch (error) {
    if (error instanceof ApiError && error.status !== 401) return true // the frame says what is wrong
    const setup = await must(api.GET('/setup')).catch(() => undefined)
    return setup?.needed
      ? { name: 'first-run' }
      : { name: 'sign-in', query: to.fullPath === '/' ? {} : { next: to.fullPath } }
  }
})
