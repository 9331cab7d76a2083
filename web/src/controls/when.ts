/** When something was, as short as it can be told: a time today, else a day, of other years with the year. */
export function when(at: string): string {
  const [then, now] = [new Date(at), new Date()];
  if (now.toDateString() === then.toDateString())
    return then.toLocaleTimeString('en-GB', { hour: '2-digit', minute: '2-digit' });
  return then.toLocaleDateString('en-GB', {
    day: 'numeric',
    month: 'short',
    ...(now.getFullYear() === then.getFullYear() ? {} : { year: 'numeric' }),
  });
}
