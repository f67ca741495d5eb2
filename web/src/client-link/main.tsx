/** @jsxImportSource preact */
import '~/client-link/my.css';
import { render } from 'preact';
import { FormPage } from '~/client-link/form-page';
import { Page } from '~/client-link/page';

const root = document.getElementById('root');
if (!root) throw new Error('The page has no #root to draw in.');
const isForm = location.pathname.startsWith('/form');
document.title = isForm ? 'A form for your coach' : 'My meals';
render(isForm ? <FormPage /> : <Page />, root);
if (!isForm && 'serviceWorker' in navigator) {
  // Without it the page works all the same, as long as there is a network.
  navigator.serviceWorker.register('/my-sw.js', { scope: '/my' }).catch(() => undefined);
}
