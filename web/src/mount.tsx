import { createRoot } from 'react-dom/client';
import { App } from './app';
import { session } from './acts/session';

createRoot(document.getElementById('root')!).render(<App />);
void session.start();
