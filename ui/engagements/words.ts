/** Where one engagement is. */
export function engagementAt(id: string): string {
  return `/people/project?id=${encodeURIComponent(id)}`;
}
