// What was typed as lines and not saved yet stays for this screen until it is saved or put
// back: also when the page is left, or somebody else changes the component meanwhile.
const key = (component: string) => `lines/${component}`;

export function kept(component: string): string | null {
  return sessionStorage.getItem(key(component));
}

export function keep(component: string, text: string, saved: string) {
  if (text === saved) forget(component);
  else sessionStorage.setItem(key(component), text);
}

export function forget(component: string) {
  sessionStorage.removeItem(key(component));
}
