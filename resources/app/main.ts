import '@fontsource-variable/instrument-sans';
import '@fontsource-variable/spline-sans-mono';
import PrimeVue from 'primevue/config';
import ConfirmationService from 'primevue/confirmationservice';
import ToastService from 'primevue/toastservice';
import Tooltip from 'primevue/tooltip';
import { createApp } from 'vue';
import App from './App.vue';
import { router } from './router';
import './styles.css';
import { theme } from './theme';

createApp(App)
  .use(router)
  .use(PrimeVue, { theme })
  .use(ToastService)
  .use(ConfirmationService)
  .directive('tooltip', Tooltip)
  .mount('#app');
