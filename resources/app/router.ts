import { createRouter, createWebHistory } from 'vue-router';
import JobsScreen from './jobs/JobsScreen.vue';

export const router = createRouter({
  history: createWebHistory('/'),
  routes: [
    { path: '/', name: 'jobs', component: JobsScreen, meta: { title: 'Jobs' } },
    { path: '/jobs/:job(\\d+)', name: 'job', component: () => import('./jobs/JobScreen.vue'), props: (r) => ({ jobId: Number(r.params['job']) }), meta: { title: 'Job' } },
    { path: '/shots/:shot(\\d+)', name: 'bench', component: () => import('./bench/BenchScreen.vue'), props: (r) => ({ shotId: Number(r.params['shot']) }), meta: { title: 'Bench' } },
    { path: '/deliveries', name: 'deliveries', component: () => import('./deliveries/DeliveriesScreen.vue'), meta: { title: 'Deliveries' } },
    { path: '/upkeep', name: 'upkeep', component: () => import('./upkeep/UpkeepScreen.vue'), meta: { title: 'Upkeep' } },
    { path: '/:rest(.*)*', component: () => import('./jobs/NotFound.vue'), meta: { title: 'Not found' } },
  ],
});

router.afterEach((to) => {
  document.title = `${String(to.meta['title'] ?? '')} · Cossel`;
});
