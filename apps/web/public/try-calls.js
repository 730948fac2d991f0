// Tries calls from their description at /api/docs: with a token, or as who is signed in.
const token = document.createElement('input');
token.type = 'password';
token.autocomplete = 'off';
token.placeholder = 'sprig_…';
token.setAttribute('aria-label', 'Token');

const intro = document.querySelector('[data-try]');
intro.append(
  'Try them with a token: ',
  token,
  ' Without one they are asked as who is signed in here. What is tried is done.',
);

const made = (name, parts = {}, ...children) => {
  const element = Object.assign(document.createElement(name), parts);
  element.append(...children);
  return element;
};

/** A field for each part of the address, one for the body, and what was answered. */
function formOf(call) {
  const { method, path, parameters, body } = call;
  const fields = parameters.map(({ name, in: where, required }) => {
    const field = made('input', { required: Boolean(required), placeholder: required ? '' : 'not needed' });
    field.setAttribute('aria-label', name);
    return { name, where, field };
  });
  const text = body === null ? null : made('textarea', { rows: 6, value: body, spellcheck: false });
  text?.setAttribute('aria-label', 'Body');
  const answer = made('pre', { hidden: true });
  const form = made(
    'form',
    {},
    ...fields.map(({ name, field }) => made('label', {}, `${name} `, field)),
    ...(text ? [text] : []),
    made('button', { type: 'submit', textContent: `Try ${method} ${path}` }),
    answer,
  );
  form.addEventListener('submit', async (event) => {
    event.preventDefault();
    answer.hidden = false;
    answer.textContent = '…';
    answer.textContent = await answerOf(call, fields, text).catch((error) => String(error));
  });
  return form;
}

async function answerOf({ method, path }, fields, text) {
  const query = new URLSearchParams();
  let address = path;
  for (const { name, where, field } of fields) {
    if (where === 'path') address = address.replace(`{${name}}`, encodeURIComponent(field.value));
    else if (field.value !== '') query.set(name, field.value);
  }
  const asked = await fetch(query.size > 0 ? `${address}?${query}` : address, {
    method,
    credentials: token.value ? 'omit' : 'same-origin',
    headers: {
      ...(token.value ? { authorization: `Bearer ${token.value.trim()}` } : {}),
      ...(text ? { 'content-type': 'application/json' } : {}),
    },
    ...(text ? { body: text.value } : {}),
  });
  const type = asked.headers.get('content-type') ?? '';
  if (!type.includes('json')) return `${asked.status}: ${type}, not shown`;
  return `${asked.status}\n${JSON.stringify(await asked.json(), null, 2)}`;
}

for (const details of document.querySelectorAll('details[data-call]'))
  details.addEventListener('toggle', () => details.append(formOf(JSON.parse(details.dataset.call))), {
    once: true,
  });
