// Shows what this browser is notified of, also while no page is open, and opens the page it is about.
self.addEventListener("push", (event) => {
  const { title, body, address, tag } = event.data.json();
  event.waitUntil(self.registration.showNotification(title, { body, tag, icon: "/favicon.svg", data: { address } }));
});

self.addEventListener("notificationclick", (event) => {
  event.notification.close();
  // Of this site only, whatever a message says.
  const { pathname, search } = new URL(event.notification.data.address, self.location.origin);
  event.waitUntil(self.clients.openWindow(self.location.origin + pathname + search));
});
