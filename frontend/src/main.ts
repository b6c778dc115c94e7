import './app.css';
import { mount } from 'svelte';
import App from './App.svelte';
import { theme } from './parts/theme.svelte';

theme.apply();
const target = document.getElementById('app');
if (!target) throw new Error('the page has no #app');
mount(App, { target });
