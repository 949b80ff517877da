'use strict';
const data = JSON.parse(document.getElementById('data').textContent);
const $ = id => document.getElementById(id);
const LEAF = 0, SUBTOTAL = 1, REST = 2, TOTAL = 3;
const BLANKS = ['nothing', 'undefined', 'unknown'];
const escapes = { '&': '&amp;', '<': '&lt;', '>': '&gt;', '"': '&quot;', "'": '&#39;' };
const esc = text => String(text).replace(/[&<>"']/g, c => escapes[c]);
const say = text => { $('said').textContent = text; };
const pathOf = labels => JSON.stringify(labels);
const blank = label => (label === '' ? '(blank)' : label);

/** Makes an element with attributes and children. */
function make(tag, attributes, ...children) {
  const element = document.createElement(tag);
  for (const [name, value] of Object.entries(attributes || {})) {
    if (name.startsWith('on')) element.addEventListener(name.slice(2), value);
    else if (value !== false) element.setAttribute(name, value === true ? '' : value);
  }
  element.append(...children);
  return element;
}

// ---- what is chosen, for all reports of the page: a member of a dimension, or one of the recent periods
const WHEN = 'when';
const chosen = new Map();

/** The dimensions of all reports, each with the members that occur anywhere. */
const dimensions = new Map();
for (const report of data.reports) {
  report.keys.forEach((key, k) => {
    const isRecent = key.kind === 'recent';
    if (key.kind === 'period' || key.kind === 'of_year') return;
    const name = isRecent ? WHEN : key.name;
    const dimension = dimensions.get(name) || { name, label: isRecent ? 'Period' : key.label, members: new Set() };
    dimensions.set(name, dimension);
    for (const row of report.rows) if (row.k !== REST && row.l.length > k) dimension.members.add(row.l[k]);
  });
}

function choose(name, member) {
  if (member === null || chosen.get(name) === member) chosen.delete(name);
  else chosen.set(name, member);
  const hash = [...chosen].map(([n, m]) => encodeURIComponent(n) + '=' + encodeURIComponent(m)).join('&');
  history.replaceState(null, '', hash ? '#' + hash : location.pathname + location.search);
  drawAll();
  say(chosen.has(name) ? `only ${blank(member)}` : `all of ${dimensions.get(name).label}`);
}

function readLink() {
  chosen.clear();
  for (const part of location.hash.slice(1).split('&')) {
    const [name, member] = part.split('=').map(text => { try { return decodeURIComponent(text); } catch (e) { return text; } });
    if (dimensions.has(name) && member !== undefined && dimensions.get(name).members.has(member)) chosen.set(name, member);
  }
}

function drawChoices() {
  const place = $('choices');
  const active = document.activeElement && document.activeElement.id;
  place.textContent = '';
  for (const dimension of dimensions.values()) {
    const select = make('select', { id: 'choose-' + dimension.name, onchange: () => {
      choose(dimension.name, select.value === '' ? null : select.value.slice(1));
    } });
    for (const member of [null, ...dimension.members]) {
      const option = make('option', { value: member === null ? '' : 'm' + member },
        member === null ? (dimension.name === WHEN ? 'All periods' : 'All') : blank(member));
      option.selected = member === null ? !chosen.has(dimension.name) : chosen.get(dimension.name) === member;
      select.append(option);
    }
    place.append(make('label', {}, make('span', {}, dimension.label), select));
  }
  if (chosen.size) place.append(make('button', { type: 'button', onclick: () => { chosen.clear(); choose([...dimensions.keys()][0], null); say('nothing chosen'); } }, 'Show all'));
  if (dimensions.size) place.append(make('button', { type: 'button', onclick: () => print() }, 'Print'));
  if (active && active.startsWith('choose-')) $(active).focus();
  const words = [...chosen].map(([name, member]) => `${dimensions.get(name).label}: ${blank(member)}`).join(', ');
  $('chosen').textContent = words;
  $('chosen').hidden = !words;
}

// ---- a report: its tree of rows, its table, its chart
class Report {
  constructor(from, number) {
    this.data = from;
    this.id = 'r' + number;
    this.open = new Set();
    this.shown = from.columns.map(() => true);
    this.sort = null;
    this.only = null;
    this.current = null;
    this.total = null;
    this.root = { labels: [], children: [], row: null };
    this.nodes = new Map([['[]', this.root]]);
    this.grow();
    this.most = from.columns.map((c, i) => c.bars
      ? Math.max(0, ...from.rows.filter(r => r.k === LEAF && r.v[i] !== null).map(r => Math.abs(Number(r.v[i])))) : 0);
    this.build();
  }

  nodeAt(labels) {
    const path = pathOf(labels);
    let node = this.nodes.get(path);
    if (!node) {
      node = { labels, path, children: [], row: null };
      this.nodes.set(path, node);
      this.nodeAt(labels.slice(0, -1)).children.push(node);
    }
    return node;
  }

  /** A row is a child of the row whose labels it continues; as much is open as a screen holds. */
  grow() {
    for (const row of this.data.rows) {
      if (row.k === TOTAL || row.l.length === 0) { this.total = row; continue; }
      const node = row.k === REST ? { labels: row.l, path: pathOf(row.l) + '+', children: [], row: null } : this.nodeAt(row.l);
      if (row.k === REST) this.nodeAt(row.l.slice(0, -1)).children.push(node);
      node.row = row;
    }
    let level = this.root.children;
    let seen = level.length;
    while (level.length) {
      const next = level.flatMap(n => n.children);
      if (!next.length || seen + next.length > 40) break;
      level.forEach(n => this.open.add(n.path));
      seen += next.length;
      level = next;
    }
  }

  /** The choices that the report has a part of its rows for: the index of the part, and what is chosen of it. */
  filters() {
    const filters = [];
    this.data.keys.forEach((key, k) => {
      const name = key.kind === 'recent' ? WHEN : key.name;
      if (chosen.has(name) && (name !== WHEN || key.kind === 'recent') && this.labelsOf(k).has(chosen.get(name))) filters.push([k, chosen.get(name)]);
    });
    return filters;
  }

  labelsOf(k) {
    this.labels = this.labels || [];
    if (!this.labels[k]) this.labels[k] = new Set(this.data.rows.filter(r => r.k !== REST && r.l.length > k).map(r => r.l[k]));
    return this.labels[k];
  }

  /** What is chosen on the page and not in this report. */
  ofAll() {
    return [...chosen.keys()].filter(name => !this.data.keys.some(key => key.name === name && key.kind !== 'recent')
      && !(name === WHEN)).map(name => dimensions.get(name).label);
  }

  lacks() {
    return this.data.keys.map((key, k) => [key.kind === 'recent' ? WHEN : key.name, k])
      .filter(([name, k]) => chosen.has(name) && !this.labelsOf(k).has(chosen.get(name))).map(([name]) => chosen.get(name));
  }

  matches(node, filters) { return filters.every(([k, v]) => node.labels.length <= k || node.labels[k] === v); }

  /** A row above a chosen part covers members that are hidden, so its numbers would mislead. */
  covered(node, filters) {
    return filters.every(([k]) => node.labels.length > k) && !(node.row && node.row.k === REST && filters.length);
  }

  occurs(node, filters) {
    if (!this.matches(node, filters)) return false;
    return node.children.length ? node.children.some(child => this.occurs(child, filters)) : this.covered(node, filters);
  }

  ordered(children) {
    if (!this.sort) return children;
    const { column, down } = this.sort;
    const value = n => (n.row && n.row.v[column] !== null ? Number(n.row.v[column]) : null);
    return [...children].sort((a, b) => {
      const ra = a.row && a.row.k === REST, rb = b.row && b.row.k === REST;
      if (ra !== rb) return ra ? 1 : -1;
      const x = value(a), y = value(b);
      if (x === null || y === null) return (x === null) - (y === null);
      return down ? y - x : x - y;
    });
  }

  visible() {
    const filters = this.filters();
    const rows = [];
    const visit = node => {
      for (const child of this.ordered(node.children)) {
        if (!this.occurs(child, filters)) continue;
        rows.push(child);
        if (this.open.has(child.path) || filters.some(([k]) => k >= child.labels.length)) visit(child);
      }
    };
    if (this.only) {
      const node = this.nodes.get(this.only);
      rows.push(node);
      visit(node);
    } else {
      visit(this.root);
    }
    return rows;
  }

  // ---- the parts of the page that are its own

  build() {
    const title = data.reports.length > 1 ? [make('h2', { dir: 'auto' }, this.data.title)] : [];
    const about = make('dl');
    const defined = new Set();
    for (const c of this.data.columns) {
      if (defined.has(c.label + c.definition)) continue;
      defined.add(c.label + c.definition);
      about.append(make('dt', {}, c.label), make('dd', {}, c.definition));
    }
    this.said = make('p', { class: 'of-all', hidden: true });
    this.tools = make('div', { class: 'tools', role: 'toolbar', 'aria-label': 'Tools of ' + this.data.title });
    this.table = make('table', { role: 'treegrid', 'aria-label': this.data.title },
      make('thead'), make('tbody'), make('tfoot'));
    this.figure = this.data.chart ? new Figure(this) : null;
    const notes = make('ul', { class: 'notes' }, ...this.data.notes.map(note => make('li', { dir: 'auto' }, note)));
    this.section = make('section', { id: this.id, 'aria-label': this.data.title }, ...title,
      ...(this.data.choice ? [make('p', { class: 'quiet', dir: 'auto' }, this.data.choice)] : []),
      this.said, ...(this.figure ? [this.figure.element] : []), this.tools,
      make('div', { class: 'frame', tabindex: '-1' }, this.table),
      ...(this.data.notes.length ? [make('h3', {}, 'Notes'), notes] : []),
      make('details', { class: 'about' }, make('summary', {}, make('strong', {}, 'What each measure is')), about));
    $('reports').append(this.section);
    this.table.addEventListener('click', event => this.clicked(event));
    this.table.addEventListener('keydown', event => this.pressed(event));
  }

  drawTools() {
    this.tools.textContent = '';
    const button = (text, act) => this.tools.append(make('button', { type: 'button', onclick: act }, text));
    if (this.only) {
      button('Show all', () => { this.only = null; this.draw(); });
      this.tools.append(make('span', { dir: 'auto' }, this.nodes.get(this.only).labels.join(' / ') + ' alone'));
    }
    if (this.data.keys.length > 1) {
      button('Open all', () => { this.nodes.forEach(n => n.children.length && this.open.add(n.path)); this.drawRows(); say('all rows open'); });
      button('Close all', () => { this.open.clear(); if (this.only) this.open.add(this.only); this.drawRows(); say('all rows closed'); });
    }
    const menu = make('details', { class: 'menu' }, make('summary', {}, 'Measures'), make('div'));
    this.data.columns.forEach((c, i) => {
      const box = make('input', { type: 'checkbox', 'data-measure': i, onchange: () => {
        this.shown[i] = box.checked;
        if (!this.shown.some(x => x)) { this.shown[i] = true; box.checked = true; }
        this.drawHead();
        this.drawRows();
      } });
      box.checked = this.shown[i];
      menu.lastChild.append(make('label', {}, box, ' ' + (c.member ? c.member + ' · ' : '') + c.label));
    });
    menu.addEventListener('keydown', event => { if (event.key === 'Escape') { menu.open = false; menu.firstChild.focus(); } });
    this.menu = menu;
    this.tools.append(menu);
    button('Copy rows', () => this.copyAll());
    if (!dimensions.size) button('Print', () => print());
  }

  columns() { return this.data.columns.map((c, i) => i).filter(i => this.shown[i]); }

  drawHead() {
    const head = this.columns().map(i => {
      const c = this.data.columns[i];
      const sort = this.sort && this.sort.column === i ? (this.sort.down ? 'descending' : 'ascending') : 'none';
      const member = c.member ? `<span class="unit"><bdi>${esc(c.member)}</bdi></span>` : '';
      const unit = c.unit ? `<span class="unit">${esc(c.unit)}</span>` : '';
      return `<th scope="col" role="columnheader" aria-sort="${sort}"><button type="button" data-column="${i}" title="${esc(c.definition)}">${member}<bdi>${esc(c.label)}</bdi>${unit}</button></th>`;
    }).join('');
    this.table.tHead.innerHTML = `<tr role="row"><th scope="col" role="columnheader"><div class="corner">${esc(this.data.keys.map(k => k.label).join(' / ') || ' ')}</div></th>${head}</tr>`;
  }

  cells(row, hidden) {
    return this.columns().map(i => {
      const column = this.data.columns[i];
      if (hidden) return '<td role="gridcell" class="quiet" title="covers members that are not chosen">·</td>';
      if (row === null) return '<td role="gridcell"></td>';
      const value = row.v[i];
      const at = ` role="gridcell" tabindex="-1" data-column="${i}"`;
      if (value === null) return `<td${at}></td>`;
      if (column.part === 'status') return `<td${at} class="status ${esc(value)}" data-value="${esc(value)}">${esc(row.t[i])}</td>`;
      let style = '';
      if (this.most[i] > 0 && row.k === LEAF) {
        const share = Math.min(100, Math.abs(Number(value)) / this.most[i] * 100).toFixed(1);
        style = ` style="background:linear-gradient(to right, var(--bar) ${share}%, transparent ${share}%)"`;
      }
      return `<td${at} data-value="${esc(value)}"${style}>${esc(row.t[i])}</td>`;
    }).join('');
  }

  rowHtml(node, base, filters) {
    const branch = node.children.length > 0;
    const open = this.open.has(node.path) || filters.some(([k]) => k >= node.labels.length);
    const level = node.labels.length;
    const key = this.data.keys[level - 1];
    const shown = node.row && node.row.s ? node.row.s : blank(node.labels[level - 1]);
    const sign = branch ? `<span class="sign" aria-hidden="true">${open ? '▾' : '▸'}</span>` : '<span class="sign"></span>';
    const isMember = key && key.kind !== 'period' && key.kind !== 'of_year' && !(node.row && node.row.k === REST);
    const isChosen = isMember && chosen.get(key.kind === 'recent' ? WHEN : key.name) === node.labels[level - 1];
    const choice = isMember ? `<button type="button" class="choose" tabindex="-1">${isChosen ? 'show all' : 'choose'}</button>` : '';
    const only = branch && !isMember ? '<button type="button" class="only" tabindex="-1" title="Show this period alone">only this</button>' : '';
    const strong = branch && node.row && node.row.k !== REST;
    return `<tr role="row" class="${strong ? 'branch ' : ''}${isChosen ? 'chosen' : ''}" data-path="${esc(node.path)}" aria-level="${level - base + 1}"`
      + `${branch ? ` aria-expanded="${open}"` : ''} tabindex="${node.path === this.current ? 0 : -1}">`
      + `<th scope="row" role="rowheader" style="padding-left:${12 + (level - base) * 18}px">${sign}<bdi>${esc(shown)}</bdi>${choice}${only}</th>`
      + this.cells(node.row, !this.covered(node, filters)) + '</tr>';
  }

  /** Draws the rows that a few screens hold at once, and the others as soon as the page has been shown. */
  drawRows(focus) {
    const filters = this.filters();
    const rows = this.visible();
    const base = this.only ? this.nodes.get(this.only).labels.length : 1;
    if (!rows.some(n => n.path === this.current)) this.current = rows.length ? rows[0].path : null;
    const html = part => part.map(node => this.rowHtml(node, base, filters)).join('');
    const body = this.table.tBodies[0];
    body.innerHTML = html(rows.slice(0, CHUNK))
      || (this.total ? '' : `<tr role="row"><td role="gridcell" class="quiet" colspan="${this.columns().length + 1}" style="text-align:left">no rows</td></tr>`);
    this.drawn = (this.drawn || 0) + 1;
    const drawing = this.drawn;
    this.rest = from => {
      if (drawing !== this.drawn || from >= rows.length) return;
      body.insertAdjacentHTML('beforeend', html(rows.slice(from, from + CHUNK)));
      this.waiting = setTimeout(() => this.rest(from + CHUNK));
      this.next = from + CHUNK;
    };
    clearTimeout(this.waiting);
    this.next = CHUNK;
    this.waiting = setTimeout(() => this.rest(CHUNK));
    this.finish = () => {
      clearTimeout(this.waiting);
      if (drawing === this.drawn && this.next < rows.length) body.insertAdjacentHTML('beforeend', html(rows.slice(this.next)));
      this.next = rows.length;
    };
    const whole = this.total && !filters.length && !this.only;
    this.table.tFoot.innerHTML = whole ? `<tr role="row"><th scope="row" role="rowheader">Total</th>${this.cells(this.total, false)}</tr>` : '';
    if (focus) this.focusRow();
  }

  draw() {
    const others = this.ofAll(), none = this.lacks();
    this.said.textContent = [
      ...(others.length ? [`This report does not show ${others.join(' or ')}: its figures are of all.`] : []),
      ...(none.length ? [`${none.map(blank).join(', ')} is not in this report: its figures are of all.`] : [])].join(' ');
    this.said.hidden = !this.said.textContent;
    this.drawTools();
    this.drawHead();
    this.drawRows();
    if (this.figure && this.figure.isSeen) this.figure.draw();
  }

  focusRow() {
    for (const tr of this.table.tBodies[0].rows) {
      tr.tabIndex = tr.dataset.path === this.current ? 0 : -1;
      if (tr.dataset.path === this.current) tr.focus();
    }
  }

  toggle(path, open) {
    const node = this.nodes.get(path);
    if (!node || !node.children.length) return;
    const opens = open === undefined ? !this.open.has(path) : open;
    if (opens) this.open.add(path); else this.open.delete(path);
    this.current = path;
    this.drawRows(true);
    say(`${node.labels[node.labels.length - 1]} ${opens ? 'open, ' + node.children.length + ' rows' : 'closed'}`);
  }

  nodeOf(tr) { return tr.dataset.path === undefined ? { row: this.total, labels: [], children: [] } : this.nodes.get(tr.dataset.path) || this.restOf(tr); }

  restOf(tr) {
    const labels = JSON.parse(tr.dataset.path.slice(0, -1));
    return this.nodeAt(labels.slice(0, -1)).children.find(n => n.path === tr.dataset.path);
  }

  // ---- events

  clicked(event) {
    const head = event.target.closest('button[data-column]');
    if (head) {
      const column = Number(head.dataset.column);
      const same = this.sort && this.sort.column === column;
      this.sort = !same ? { column, down: true } : this.sort.down ? { column, down: false } : null;
      this.drawHead();
      this.drawRows();
      this.table.querySelector(`button[data-column="${column}"]`).focus();
      say(this.sort ? `sorted by ${this.data.columns[column].label}, ${this.sort.down ? 'largest first' : 'smallest first'}` : 'in the order of the report');
      return;
    }
    const tr = event.target.closest('tr');
    const cell = event.target.closest('td[data-column]');
    if (cell && !String(getSelection())) {
      explain(this, this.nodeOf(tr), Number(cell.dataset.column), cell);
      return;
    }
    if (!tr || tr.dataset.path === undefined) return;
    this.current = tr.dataset.path;
    if (event.target.closest('.choose')) {
      const { labels } = this.nodeOf(tr);
      const key = this.data.keys[labels.length - 1];
      choose(key.kind === 'recent' ? WHEN : key.name, labels[labels.length - 1]);
    } else if (event.target.closest('.only')) {
      this.only = this.current;
      this.open.add(this.current);
      this.draw();
      this.focusRow();
    } else if (event.target.closest('th') && !String(getSelection())) {
      this.toggle(this.current);
    }
  }

  pressed(event) {
    const tr = event.target.closest('tbody tr[data-path], tfoot tr');
    if (!tr || event.target.closest('button')) return;
    const cell = event.target.closest('td[data-column]');
    const node = this.nodeOf(tr) || { labels: [], children: [] };
    const all = [...this.table.tBodies[0].rows];
    const at = all.indexOf(tr);
    const go = to => { if (all[to]) { this.current = all[to].dataset.path; this.focusRow(); } };
    const beside = step => {
      const cells = [...tr.querySelectorAll('td[data-column]')];
      const to = cell ? cells.indexOf(cell) + step : step > 0 ? 0 : -1;
      if (cells[to]) cells[to].focus(); else if (cell && to < 0) tr.focus();
    };
    switch (event.key) {
      case 'ArrowDown': go(at + 1); break;
      case 'ArrowUp': go(at - 1); break;
      case 'Home': go(0); break;
      case 'End': go(all.length - 1); break;
      case 'ArrowRight': if (!cell && node.children.length && !this.open.has(node.path)) this.toggle(node.path, true); else beside(1); break;
      case 'ArrowLeft':
        if (cell) beside(-1);
        else if (this.open.has(node.path) && node.children.length) this.toggle(node.path, false);
        else { go(all.findIndex(r => r.dataset.path === pathOf(node.labels.slice(0, -1)))); }
        break;
      case 'Enter': case ' ': if (cell) explain(this, node, Number(cell.dataset.column), cell); else this.toggle(tr.dataset.path); break;
      case 'c': { const choice = tr.querySelector('.choose'); if (!choice || event.ctrlKey || event.metaKey) return; choice.click(); break; }
      default: return;
    }
    event.preventDefault();
  }

  // ---- copying: exact values, parted by tabs; a text that a spreadsheet would run gets an apostrophe

  asText(rows) {
    const columns = this.columns();
    const head = [...this.data.keys.map(k => k.name), ...columns.map(i => harmless(this.data.columns[i].name))];
    const lines = rows.map(({ labels, row, hidden }) => [
      ...this.data.keys.map((k, i) => (i < labels.length ? harmless(labels[i]) : '')),
      ...columns.map(i => (row && !hidden && row.v[i] !== null ? String(row.v[i]) : ''))]);
    return [head, ...lines].map(fields => fields.join('\t')).join('\n') + '\n';
  }

  copied(paths) {
    const filters = this.filters();
    return this.asText(this.visible().filter(n => !paths || paths.has(n.path)).map(n => ({ labels: n.labels, row: n.row, hidden: !this.covered(n, filters) })));
  }

  async copyAll() {
    const text = this.copied(null);
    try {
      await navigator.clipboard.writeText(text);
    } catch (e) {
      const area = make('textarea');
      area.value = text;
      document.body.append(area);
      area.select();
      document.execCommand('copy');
      area.remove();
    }
    say('rows copied');
  }
}
const CHUNK = 250;
const harmless = text => (/^[=+\-@\t\r]/.test(text) ? "'" + text : text).replace(/[\t\r\n]+/g, ' ');

document.addEventListener('copy', event => {
  const selection = getSelection();
  if (!event.clipboardData || selection.isCollapsed) return;
  for (const report of reports) {
    const paths = new Set([...report.table.tBodies[0].rows].filter(tr => selection.containsNode(tr, true)).map(tr => tr.dataset.path));
    if (paths.size < 2) continue;
    event.clipboardData.setData('text/plain', report.copied(paths));
    event.preventDefault();
    return;
  }
});
document.addEventListener('click', event => {
  for (const report of reports) if (report.menu && !report.menu.contains(event.target)) report.menu.open = false;
});
addEventListener('beforeprint', () => reports.forEach(report => { report.finish(); if (report.figure) { report.figure.show(); report.figure.resize(); } }));

// ---- the way to a figure

function explain(report, node, column, cell) {
  const row = node.row;
  if (!row || row.k === REST) return;
  const dialog = $('explanation');
  const c = report.data.columns[column];
  const times = row.l.filter((l, k) => report.data.keys[k].kind !== 'member');
  const known = report.data.explained && report.data.explained[pathOf([times, c.key])];
  const way = known && known[column] !== null ? report.data.ways[known[column]] : null;
  const members = report.data.keys.map((key, k) => (key.kind === 'member' && k < row.l.length ? blank(row.l[k]) : null)).filter(x => x !== null);
  const parts = [c.label, ...(c.member ? [c.member] : []), ...(row.l.length ? row.l.map(blank) : ['Total'])];
  dialog.textContent = '';
  dialog.append(make('h2', { id: 'explained', dir: 'auto' }, parts.join(' · ')));
  const isBlank = row.v[column] === null;
  dialog.append(make('p', { class: 'value' }, isBlank ? 'blank: ' + BLANKS[row.t[column]] : row.t[column]));
  if (isBlank) dialog.append(make('p', {}, way && way.y && way.y.startsWith(BLANKS[row.t[column]]) ? way.y : WHY[row.t[column]]));
  else if (c.part !== 'status') dialog.append(make('p', { class: 'quiet' }, 'exactly ' + row.v[column] + (c.unit ? ' (' + c.unit + ')' : '')));
  dialog.append(make('p', {}, make('code', {}, c.definition)));
  if (way) {
    if (members.length) dialog.append(make('p', {}, `The days and rows below are those of all members together; this figure is of ${members.join(', ')} alone.`));
    dialog.append(make('ul', {}, wayOf(way)));
  } else {
    dialog.append(make('p', { class: 'quiet' }, report.data.explained ? 'Its days are not known here.'
      : 'The way to it is not in this page; `mile explain` shows it.'));
  }
  dialog.append(make('form', { method: 'dialog' }, make('button', {}, 'Close')));
  dialog.addEventListener('close', () => cell.focus(), { once: true });
  dialog.showModal();
}
const WHY = ['nothing: no rows were found there that have a value', 'undefined: a division by nothing or by zero, or a mean of no rows',
  'unknown: some of its days, or some of the days that its member was there, are not covered'];

function wayOf(way) {
  const item = make('li', {}, make('code', {}, way.e), ' = ', make('strong', {}, way.v === undefined ? way.y || 'blank' : way.v));
  if (way.w) {
    item.append(make('table', {}, make('tbody', {}, ...way.w.map(([step, days, count]) => make('tr', {}, make('td', {}, step), make('td', {}, days), make('td', {}, count))))));
  }
  if (way.r) item.append(make('div', { class: 'quiet' }, way.r));
  if (way.o) item.append(make('ul', {}, ...way.o.map(wayOf)));
  return item;
}

// ---- charts

const MOST_LINES = 8, MOST_BARS = 24, MOST_MARKED = 26;
const SYMBOLS = ['circle', 'rect', 'triangle', 'diamond', 'roundRect', 'arrow', 'pin', 'circle'];
const STATUS_COLOURS = { met: '--met', near: '--near', missed: '--missed' };
const probe = make('span', { hidden: true });
// charts keep colours of their own where the system forces its own on text
probe.style.forcedColorAdjust = 'none';
document.body.append(probe);
/** Returns a colour of the style as the drawing needs it: system colours too. */
function colour(name) {
  probe.style.color = `var(${name})`;
  return getComputedStyle(probe).color;
}
const pale = rgb => rgb.replace(/^rgb\(/, 'rgba(').replace(/\)$/, ', 0.3)');

/** Charts are drawn when they come into sight, so that a page of many opens at once. */
const onSight = new IntersectionObserver(entries => entries.filter(entry => entry.isIntersecting).forEach(entry => {
  reports.map(report => report.figure).find(figure => figure && figure.element === entry.target).show();
}), { rootMargin: '400px' });

class Figure {
  constructor(report) {
    this.report = report;
    this.chart = report.data.chart;
    this.at = -1;
    this.local = null;
    this.pick = make('div', { class: 'pick' });
    this.drawing = make('div', { class: 'drawing', 'data-kind': this.chart.kind, tabindex: '0', role: 'img' });
    this.caption = make('figcaption');
    this.values = make('details', {}, make('summary', {}, 'Values of the chart'), make('div'));
    this.values.addEventListener('toggle', () => this.fill());
    this.element = make('figure', {}, this.pick, this.drawing, this.caption, this.values);
    this.isSeen = false;
    onSight.observe(this.element);
    this.drawing.addEventListener('keydown', event => this.pressed(event));
    this.drawing.addEventListener('blur', () => this.echart && this.echart.dispatchAction({ type: 'hideTip' }));
  }

  /** Draws it for the first time; it follows the choices from then on. */
  show() {
    if (this.isSeen) return;
    this.isSeen = true;
    onSight.unobserve(this.element);
    this.draw();
  }

  labelsOf(series) {
    const row = series.r.find(r => r >= 0);
    return row === undefined ? [] : this.report.data.rows[row].l;
  }

  isOf(labels) { return this.report.filters().every(([k, v]) => labels.length <= k || labels[k] === v); }

  /** The series that are drawn, and the members of whom only one can be. */
  lines() {
    const series = this.chart.series.filter(s => this.isOf(this.labelsOf(s)));
    const members = [...new Set(series.map(s => s.m))];
    const oneAtATime = members.length > 1 && (this.chart.kind === 'gap' || this.chart.kind === 'trend' || series.length > MOST_LINES);
    if (!oneAtATime) return { series, members: [], isOne: members.length === 1 };
    const member = members.includes(this.local) ? this.local : members[0];
    return { series: series.filter(s => s.m === member), members, member, isOne: true };
  }

  drawPick(members, member) {
    this.pick.textContent = '';
    if (!members.length) return;
    const select = make('select', { id: this.report.id + '-pick', onchange: () => { this.local = select.value; this.draw(); $(select.id).focus(); } },
      ...members.map(m => make('option', { value: m, selected: m === member }, m)));
    this.pick.append(make('label', {}, make('span', {}, `One of ${members.length}:`), select));
  }

  draw() {
    const isBars = this.chart.kind === 'ranking' || this.chart.kind === 'status';
    const spec = isBars ? this.bars() : this.overTime();
    this.spec = spec;
    this.at = -1;
    this.drawPick(spec.members || [], spec.member);
    this.caption.textContent = spec.note;
    this.drawing.setAttribute('aria-label', `Chart: ${this.report.data.title}, ${spec.names.join(', ')}. Arrow keys go through its values.`);
    if (isBars) this.drawing.style.setProperty('--bars-high', Math.max(160, 90 + spec.count * 26) + 'px');
    if (!this.echart) {
      this.echart = echarts.init(this.drawing, null, { renderer: 'svg' });
      this.echart.on('click', event => this.clicked(event));
    }
    this.resize();
    this.echart.setOption({ animation: false, textStyle: { fontFamily: getComputedStyle(document.body).fontFamily, color: colour('--ink') }, ...spec.option }, true);
    if (this.values.open) this.fill();
  }

  resize() { if (this.echart) this.echart.resize(); }

  scaled(v) { return v === null ? null : v / 10 ** this.chart.digits; }

  format() {
    const percent = this.chart.percent;
    const number = new Intl.NumberFormat(data.locale, percent ? { style: 'percent', maximumFractionDigits: 1 } : { maximumFractionDigits: 2 });
    return value => number.format(value);
  }

  text(series, i) { return series.r[i] < 0 || series.v[i] === null ? '' : series.t ? series.t[i] : this.report.data.rows[series.r[i]].t[series.c]; }

  tip(lines, i) {
    return `<strong>${esc(this.spec.categories[i])}</strong><br>` + lines.filter(s => s.v[i] !== null && s.v[i] !== undefined)
      .map(s => `${esc(s.label)}: <strong>${esc(this.text(s, i))}</strong>`).join('<br>');
  }

  axisOf(categories, groups) {
    const n = categories.length;
    const width = this.drawing.clientWidth || 1100;
    const widest = Math.max(...categories.map(c => c.length)) * 7.5 + 18;
    const step = Math.max(1, Math.ceil(n * widest / Math.max(200, width - 140)));
    let last = null;
    const texts = categories.map((c, i) => {
      if (i % step) return '';
      const begins = groups[i] && groups[i] !== last;
      last = groups[i] || last;
      return c + (groups.some(g => g) ? '\n' + (begins ? `{g|${groups[i]}}` : '') : '');
    });
    return {
      type: 'value', min: -0.5, max: n - 0.5, containShape: false, splitLine: { show: false }, axisTick: { show: false },
      axisLine: { onZero: false, lineStyle: { color: colour('--line') } },
      axisLabel: { color: colour('--quiet'), fontSize: 12, hideOverlap: false, customValues: texts.map((text, i) => (text ? i : -1)).filter(i => i >= 0), formatter: v => (Number.isInteger(v) && texts[v]) || '', rich: { g: { fontWeight: 'bold', padding: [4, 0, 0, 0], color: colour('--quiet') } } },
    };
  }

  valueAxis(name) {
    return { type: 'value', name, nameLocation: 'middle', nameGap: 78, nameTextStyle: { color: colour('--quiet') }, scale: false, axisLine: { show: false }, axisTick: { show: false },
      axisLabel: { color: colour('--quiet'), formatter: this.format() }, splitLine: { lineStyle: { color: colour('--grid') } } };
  }

  overTime() {
    const { series, members, member, isOne } = this.lines();
    const gap = this.chart.kind === 'gap';
    const lines = gap ? series.slice(0, 2) : series;
    const columns = gap ? series.slice(2, 3) : [];
    const categories = this.chart.categories;
    const few = categories.length <= MOST_MARKED;
    const drawn = [];
    const asOf = this.chart.asOf ? { silent: true, symbol: 'none', lineStyle: { color: colour('--quiet'), type: 'dotted' },
      label: { formatter: 'as of ' + this.chart.asOf, color: colour('--quiet'), position: 'end', align: this.chart.asOfAt > categories.length * 3 / 4 ? 'right' : 'left' }, data: [{ xAxis: this.chart.asOfAt }] } : undefined;
    lines.forEach((s, number) => {
      const name = isOne ? s.short : s.label;
      const base = { type: 'line', name, color: colour('--c' + number % 8), symbol: SYMBOLS[number % 8], symbolSize: 8, showAllSymbol: true, z: 3, lineStyle: { width: 2 } };
      const alone = i => (s.v[i - 1] ?? null) === null && (s.v[i + 1] ?? null) === null;
      const points = (from, to) => s.v.map((v, i) => (i < from || i >= to || v === null ? null : i)).filter(i => i !== null)
        .map(i => ({ value: [i, this.scaled(s.v[i])], symbolSize: few || alone(i) ? 8 : 0 }));
      drawn.push({ ...base, data: gaps(points(0, s.actual)), markLine: number === 0 ? asOf : undefined, from: s });
      if (s.actual < s.v.length) {
        drawn.push({ ...base, data: gaps(points(Math.max(0, s.actual - 1), s.v.length)), lineStyle: { width: 2, type: [6, 5] }, from: s });
      }
      (s.fits || []).forEach(fit => drawn.push({ ...base, name: `${name}, ${fit.kind}: ${fit.equation}`, symbol: 'none', fit: true,
        lineStyle: { width: 1.5, type: fit.kind === 'linear' ? 'solid' : 'dotted', opacity: 0.8 }, data: fit.v.map((v, i) => [i, v]) }));
    });
    columns.forEach(s => drawn.push({ type: 'bar', name: isOne ? s.short : s.label, xAxisIndex: 1, yAxisIndex: 1, color: colour('--c2'), barMaxWidth: 26,
      barWidth: Math.max(2, Math.min(26, 700 / categories.length)), from: s,
      data: s.v.map((v, i) => (v === null ? null : { value: [i, this.scaled(v)], itemStyle: i >= s.actual
        ? { color: pale(colour(v < 0 ? '--c1' : '--c2')), borderColor: colour(v < 0 ? '--c1' : '--c2'), borderType: 'dashed' } : { color: colour(v < 0 ? '--c1' : '--c2') } })).filter(p => p) }));
    const known = lines.flatMap(s => s.v).filter(v => v !== null);
    const least = Math.min(...known), most = Math.max(...known);
    const close = known.length > 0 && least > 0 && least > 0.7 * most && least < most;
    const names = [...new Set(drawn.map(d => d.name))];
    const x = this.axisOf(this.chart.ticks, this.chart.groups);
    const upper = { ...this.valueAxis(this.chart.unit), scale: close };
    const everySeries = [...lines, ...columns];
    return {
      members, member, categories, names, everySeries, count: categories.length,
      note: [this.chart.note, members.length ? `${members.length} members; one is drawn at a time.` : ''].filter(x => x).join(' '),
      option: {
        legend: { data: names.map(name => ({ name, ...(drawn.find(d => d.name === name).fit ? { icon: 'path://M0,0h24v3h-24z' } : {}) })), top: 0, left: 0, textStyle: { color: colour('--ink') }, type: 'plain', selectedMode: false },
        tooltip: { trigger: 'axis', axisPointer: { type: 'line', snap: true }, backgroundColor: colour('--ground'), borderColor: colour('--line'), textStyle: { color: colour('--ink') },
          formatter: params => this.tip(everySeries, Math.round((Array.isArray(params) ? params[0] : params).value[0])) },
        grid: gap ? [{ left: 100, right: 24, top: 46 + 22 * Math.floor(names.length / 5), height: '52%' }, { left: 100, right: 24, bottom: 46, height: '20%' }]
          : [{ left: 100, right: 24, top: 46 + 22 * Math.floor((this.chart.kind === 'trend' ? names.length * 2 : names.length) / 5), bottom: 46 }],
        xAxis: gap ? [{ ...x, axisLabel: { show: false } }, { ...x, gridIndex: 1 }] : x,
        yAxis: gap ? [upper, { ...this.valueAxis(columns.length ? columns[0].short : ''), gridIndex: 1, splitNumber: 3 }] : upper,
        series: drawn,
      },
    };
  }

  /** Bars of the rows that are chosen; of many, those at both ends, and how many lie between. */
  bars() {
    const [value, against] = this.chart.series;
    const rows = value.r.map((r, i) => i).filter(i => this.isOf(this.report.data.rows[value.r[i]].l)
      && this.report.covered({ labels: this.report.data.rows[value.r[i]].l, row: this.report.data.rows[value.r[i]] }, this.report.filters()));
    const between = rows.length - MOST_BARS;
    const shown = between > 0 ? [...rows.slice(0, MOST_BARS / 2), -1, ...rows.slice(-MOST_BARS / 2)] : rows;
    const names = shown.map(i => (i < 0 ? `… ${between} between …` : this.chart.categories[i]));
    const statusOf = i => (i < 0 || !this.chart.statuses ? null : this.chart.statuses[i]);
    const fill = i => (statusOf(i) ? colour(STATUS_COLOURS[statusOf(i)]) : this.chart.statuses ? colour('--quiet') : colour(value.v[i] < 0 ? '--c1' : '--c0'));
    const unfinished = i => this.chart.unfinished && this.chart.unfinished[i];
    const style = i => (unfinished(i) ? { color: pale(fill(i)), borderColor: fill(i), borderType: 'dashed' } : { color: fill(i) });
    const sign = { met: '● met', near: '◐ near', missed: '○ missed' };
    const series = [{ type: 'bar', name: value.label, barMaxWidth: 22, itemStyle: { color: colour(this.chart.statuses ? '--quiet' : '--c0') }, data: shown.map(i => (i < 0 || value.v[i] === null ? { value: null } : { value: this.scaled(value.v[i]), itemStyle: style(i) })),
      label: { show: true, position: 'right', color: colour('--ink'), formatter: p => { const i = shown[p.dataIndex]; return i < 0 ? '' : this.text(value, i) + (statusOf(i) ? '  ' + sign[statusOf(i)] : ''); } } }];
    if (against) series.push({ type: 'scatter', name: against.label, symbol: 'rect', symbolSize: [3, 24], color: colour('--ink'), silent: true,
      data: shown.map((i, at) => (i < 0 || against.v[i] === null ? null : [this.scaled(against.v[i]), at])).filter(p => p) });
    return {
      categories: names, names: series.map(s => s.name), count: shown.length, shownRows: shown, everySeries: [value, ...(against ? [against] : [])],
      note: between > 0 ? `The first and the last ${MOST_BARS / 2} of ${rows.length} rows are drawn, ${between} lie between.` : '',
      option: {
        legend: against ? { top: 0, left: 0, textStyle: { color: colour('--ink') }, selectedMode: false } : undefined,
        tooltip: { trigger: 'axis', axisPointer: { type: 'shadow' }, backgroundColor: colour('--ground'), borderColor: colour('--line'), textStyle: { color: colour('--ink') },
          formatter: params => { const i = shown[(Array.isArray(params) ? params[0] : params).dataIndex]; return i < 0 ? '' : this.tipOfRow(i); } },
        grid: { left: 8, right: 120, top: against ? 40 : 10, bottom: 40, containLabel: true },
        xAxis: { ...this.valueAxis(value.label + (this.chart.unit ? ', ' + this.chart.unit : '')), nameGap: 28 },
        yAxis: { type: 'category', inverse: true, data: names, axisTick: { show: false }, axisLine: { lineStyle: { color: colour('--line') } }, axisLabel: { color: colour('--ink'), interval: 0 } },
        series,
      },
    };
  }

  tipOfRow(i) {
    return `<strong>${esc(this.chart.categories[i])}</strong><br>` + this.chart.series.map(s => `${esc(s.label)}: <strong>${esc(this.text(s, i))}</strong>`).join('<br>');
  }

  /** Chooses the members of a row or a series; nothing where it has none. */
  chooseLabels(labels) {
    for (let k = Math.min(labels.length, this.report.data.keys.length) - 1; k >= 0; k--) {
      const key = this.report.data.keys[k];
      if (key.kind === 'member' || key.kind === 'attribute' || key.kind === 'recent') {
        choose(key.kind === 'recent' ? WHEN : key.name, labels[k]);
        return;
      }
    }
  }

  clicked(event) {
    if (this.spec.shownRows) {
      const i = this.spec.shownRows[event.dataIndex];
      if (i >= 0) this.chooseLabels(this.report.data.rows[this.chart.series[0].r[i]].l);
    } else {
      const from = this.spec.option.series[event.seriesIndex].from;
      if (from) this.chooseLabels(this.labelsOf(from));
    }
  }

  pressed(event) {
    const step = { ArrowRight: 1, ArrowDown: 1, ArrowLeft: -1, ArrowUp: -1 }[event.key];
    const n = this.spec.categories.length;
    if (step) {
      this.at = Math.max(0, Math.min(n - 1, this.at < 0 ? (step > 0 ? 0 : n - 1) : this.at + step));
      this.tell();
    } else if (event.key === 'Home' || event.key === 'End') {
      this.at = event.key === 'Home' ? 0 : n - 1;
      this.tell();
    } else if (event.key === 'Escape') {
      this.echart.dispatchAction({ type: 'hideTip' });
    } else if ((event.key === 'Enter' || event.key === ' ') && this.at >= 0) {
      if (this.spec.shownRows) this.clicked({ dataIndex: this.at });
      else if (this.spec.everySeries.length) this.chooseLabels(this.labelsOf(this.spec.everySeries[0]));
    } else {
      return;
    }
    event.preventDefault();
  }

  /** Shows and says the values at the place. */
  tell() {
    const i = this.spec.shownRows ? this.spec.shownRows[this.at] : this.at;
    const first = this.spec.shownRows ? this.at : this.spec.option.series[0].data.findIndex(p => p && (p.value || p)[0] === this.at);
    if (first >= 0) this.echart.dispatchAction({ type: 'showTip', seriesIndex: 0, dataIndex: first });
    say(i < 0 ? this.spec.categories[this.at] : `${this.spec.shownRows ? this.chart.categories[i] : this.spec.categories[i]}: `
      + this.spec.everySeries.filter(s => s.v[i] !== null).map(s => `${s.label} ${this.text(s, i)}`).join(', '));
  }

  axisName() {
    const keys = this.report.data.keys;
    return this.spec.shownRows || !keys.some(key => key.kind === 'period' || key.kind === 'of_year') ? keys[keys.length - 1].label
      : keys.filter(key => key.kind === 'period' || key.kind === 'of_year').pop().label;
  }

  /** The values that are drawn, as a table. */
  fill() {
    const place = this.values.lastChild;
    place.textContent = '';
    if (!this.values.open) return;
    const indexes = this.spec.shownRows ? this.spec.shownRows.filter(i => i >= 0) : this.spec.categories.map((c, i) => i);
    const label = i => (this.spec.shownRows ? this.chart.categories[i] : this.spec.categories[i]);
    place.append(make('table', {}, make('caption', { class: 'sr' }, this.report.data.title),
      make('thead', {}, make('tr', {}, make('th', { scope: 'col' }, this.axisName()), ...this.spec.everySeries.map(s => make('th', { scope: 'col' }, s.label)))),
      make('tbody', {}, ...indexes.map(i => make('tr', {}, make('th', { scope: 'row' }, label(i)), ...this.spec.everySeries.map(s => make('td', {}, this.text(s, i))))))));
  }
}

/** Breaks a line where values are missing. */
function gaps(points) {
  const all = [];
  points.forEach((p, n) => {
    if (n && p.value[0] > points[n - 1].value[0] + 1) all.push({ value: [points[n - 1].value[0] + 0.5, null] });
    all.push(p);
  });
  return all;
}

// ---- the page

const reports = data.reports.map((report, number) => new Report(report, number));
function drawAll() {
  drawChoices();
  reports.forEach(report => report.draw());
}
$('under').textContent = data.under;
if (reports.length > 1) {
  $('contents').hidden = false;
  $('contents').append(make('ul', {}, ...reports.map(report => make('li', {}, make('a', { href: '#' + report.id, onclick: event => {
    event.preventDefault();
    report.section.scrollIntoView();
  } }, report.data.title)))));
}
readLink();
addEventListener('hashchange', () => { readLink(); drawAll(); });
addEventListener('resize', () => reports.forEach(report => report.figure && report.figure.isSeen && report.figure.draw()));
for (const query of ['(prefers-color-scheme: dark)', '(forced-colors: active)']) matchMedia(query).addEventListener('change', drawAll);
drawAll();
