import { PiniaColada } from '@pinia/colada';
import './platform/element-styles.ts';
import { createPinia } from 'pinia';
import { createApp } from 'vue';
import App from './App.vue';
import './platform/theme.css';
import { installElements } from './platform/elements.ts';
import { router } from './router.ts';

createApp(App).use(createPinia()).use(PiniaColada, {}).use(installElements).use(router).mount('#app');
