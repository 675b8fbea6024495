import type { Schemas } from '@/api/client'

/** A step of the work with one golfer: where it is, what it is called, and the view that shows it. */
export interface Step {
  name: keyof Schemas['Athlete']['path']
  title: string
  /** Below the golfer. */
  path: string
  component: () => Promise<unknown>
}

/** The work path: the order in which it stands at the top of a golfer's pages, and what the router serves. */
export const steps: Step[] = [
  { name: 'intake', title: 'Intake', path: 'intake', component: () => import('@/views/intake/Intake.vue') },
  {
    name: 'screen',
    title: 'Screen',
    path: 'screen/:screenId?',
    component: () => import('@/views/screen/ScreenSheet.vue'),
  },
  { name: 'force', title: 'Force', path: 'force/:recordingId?', component: () => import('@/views/force/Force.vue') },
  { name: 'speed', title: 'Speed', path: 'speed', component: () => import('@/views/speed/Speed.vue') },
  { name: 'read', title: 'Read', path: 'read', component: () => import('@/views/read/Read.vue') },
  { name: 'season', title: 'Season', path: 'season', component: () => import('@/views/season/Season.vue') },
  {
    name: 'programme',
    title: 'Programme',
    path: 'programme/:programmeId?',
    component: () => import('@/views/programme/Programme.vue'),
  },
  {
    name: 'warmup',
    title: 'Warm-up',
    path: 'warmup',
    component: () => import('@/views/warmup/WarmUp.vue'),
  },
  { name: 'floor', title: 'Floor', path: 'floor', component: () => import('@/views/floor/Floor.vue') },
  {
    name: 'progress',
    title: 'Progress',
    path: 'progress',
    component: () => import('@/views/progress/Progress.vue'),
  },
]
