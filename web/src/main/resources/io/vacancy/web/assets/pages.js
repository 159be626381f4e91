// Asks in a dialog over the list instead of on a page of its own, and refreshes the list in place. Without it everything
// works as well. Forms that ask have the attribute data-asks.
"use strict";

const dialog = document.createElement("dialog");
dialog.className = "asking";
dialog.setAttribute("aria-label", "");
document.body.append(dialog);

/** What a page of the deletion shows, inside the dialog. */
function show(page) {
  const main = page.querySelector("main");
  dialog.replaceChildren(...main.children);
  dialog.setAttribute("aria-label", dialog.querySelector("h1").textContent);
  if (!dialog.open) {
    dialog.showModal();
  }
  dialog.scrollTop = 0;
}

async function refresh() {
  const answer = await fetch(location.href, { headers: { Accept: "text/html" } });
  const page = new DOMParser().parseFromString(await answer.text(), "text/html");
  document.querySelector("main").replaceChildren(...page.querySelector("main").children);
}

/** Sends a form as the browser would, by the button that was pressed. */
async function send(form, button) {
  const fields = new FormData(form);
  if (button && button.name) {
    fields.append(button.name, button.value);
  }
  const answer = await fetch(form.action, { method: "POST", body: new URLSearchParams(fields) });
  const page = new DOMParser().parseFromString(await answer.text(), "text/html");
  // Whoever says no is led back to the list, which is here already.
  if (page.querySelector("body[data-asking]")) {
    show(page);
  } else {
    dialog.close();
  }
}

document.addEventListener("submit", (event) => {
  const form = event.target;
  if (form.matches("[data-asks]") || dialog.contains(form)) {
    event.preventDefault();
    send(form, event.submitter).catch(() => location.reload());
  }
});

dialog.addEventListener("click", (event) => {
  if (event.target.closest("a.back")) {
    event.preventDefault();
    dialog.close();
  }
});

dialog.addEventListener("close", () => refresh().catch(() => location.reload()));
