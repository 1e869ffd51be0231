// Who works at this screen: kept in this browser, and sent along so that changes and
// ticks carry a name.
const key = "jointime.person";

export const person = () => window.localStorage.getItem(key) ?? "";

export function setPerson(id: string) {
  if (id) window.localStorage.setItem(key, id);
  else window.localStorage.removeItem(key);
}
