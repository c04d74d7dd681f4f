import { createPinia } from 'pinia';
import { createApp, type Component } from 'vue';
import App from './App.vue';
import { router } from './router.ts';
import './theme/base.css';

createApp(App as Component)
  .use(createPinia())
  .use(router)
  .mount('#app');
