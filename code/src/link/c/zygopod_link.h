/* Links a game to Zygopod: its rows and hands go there, and numbers that are dragged there come back. One file, POSIX sockets and threads; MIT license.
 * Nothing in the game's thread waits: a thread of its own connects, sends and listens. Requests are carried out in zygopod_row, between two ticks.
 * Build with -pthread. The link is for this machine: ws://, no TLS. */
#ifndef ZYGOPOD_LINK_H
#define ZYGOPOD_LINK_H
#include <netdb.h>
#include <poll.h>
#include <pthread.h>
#include <stdarg.h>
#include <stdint.h>
#include <stdio.h>
#include <stdlib.h>
#include <string.h>
#include <sys/socket.h>
#include <unistd.h>
#define ZG_KEPT 36000 /* rows that are kept to be sent again: ten minutes at a rate of 60 */
#define ZG_MOST 100   /* rows and events of a message */
#define ZG_NAMES 200
#define ZG_WIDTH 32 /* columns at most */
#define ZG_HANDS 65536

/* Answers a request; returns why it isn't done, or NULL. `json` is the message: see zygopod_member. */
typedef const char *(*ZygopodHandler)(void *user, const char *json);
typedef struct { const char *name, *path; double *value, min, max; } ZygopodNumber;
typedef struct { double at; char text[64]; } ZygopodHand;
typedef struct {
  const char *host, *port, *game, *build, *unit, *columns, *token; /* columns: "tick,x,y,vx,vy,facing" */
  double hz;
  int y_up, width, count, begin, end, next, hand_begin, hand_end, hand_next, socket, is_linked, has_session, ability_count, in, out;
  volatile int over;
  ZygopodNumber numbers[ZG_NAMES];
  struct { const char *name; ZygopodHandler run; void *user; } abilities[4];
  double *rows; /* a ring of rows, and one of events; `next` is the first that is to be sent */
  ZygopodHand *hands; char session[64], *inbox[64], *outbox[64];
  pthread_mutex_t lock;
  pthread_t thread;
} ZygopodLink;
#define zg_row_at(l, i) ((l)->rows + (size_t)((i) % ZG_KEPT) * (size_t)(l)->width)

/* ---- Reading JSON: the end of a value, a member of an object, an element of an array. */
static const char *zg_space(const char *p) { while (*p == ' ' || *p == '\n' || *p == '\t' || *p == '\r' || *p == ',' || *p == ':') p++; return p; }
static const char *zg_after(const char *p) {
  int depth = 0; p = zg_space(p);
  do {
    if (*p == '"') { for (p++; *p && *p != '"'; p++) if (*p == '\\' && p[1]) p++; if (*p) p++; }
    else if (*p == '{' || *p == '[') { depth++; p++; }
    else if (*p == '}' || *p == ']') { if (depth-- == 0) return p; p++; }
    else if (*p && strchr(" \n\t\r,:", *p)) p++;
    else while (*p && !strchr(" \n\t\r,:{}[]\"", *p)) p++;
  } while (*p && depth > 0);
  return p;
}
/* The value of a member of an object; NULL if there is none. */
static inline const char *zygopod_member(const char *json, const char *key) {
  const char *p = zg_space(json); size_t length = strlen(key);
  if (*p++ != '{') return NULL;
  for (p = zg_space(p); *p == '"'; p = zg_space(zg_after(p))) {
    const char *name = p + 1; p = zg_space(zg_after(p));
    if (strncmp(name, key, length) == 0 && name[length] == '"') return p;
  }
  return NULL;
}
/* An element of an array; NULL past its end. */
static inline const char *zygopod_element(const char *json, int index) {
  const char *p = json ? zg_space(json) : "";
  if (*p++ != '[') return NULL;
  for (p = zg_space(p); *p && *p != ']'; p = zg_space(zg_after(p))) if (index-- == 0) return p;
  return NULL;
}
static inline double zygopod_number(const char *json, const char *key, double otherwise) {
  const char *p = zygopod_member(json, key); return p ? (*p == 't' ? 1 : *p == 'f' ? 0 : strtod(p, NULL)) : otherwise;
}
/* Copies a text of a message without its escapes; an empty text if there is none. */
static inline void zygopod_text(const char *json, const char *key, char *into, size_t size) {
  const char *p = zygopod_member(json, key); size_t n = 0;
  if (p && *p == '"') for (p++; *p && *p != '"' && n + 1 < size; into[n++] = *p++) if (*p == '\\' && p[1]) p++;
  into[n] = 0;
}

/* ---- Writing: text that grows. */
typedef struct { char *text; size_t length, size; } ZgText;
static void zg_add(ZgText *t, const char *format, ...) {
  for (;;) {
    va_list list; va_start(list, format);
    int n = t->size > t->length ? vsnprintf(t->text + t->length, t->size - t->length, format, list) : -1; va_end(list);
    if (n >= 0 && t->length + (size_t)n < t->size) { t->length += (size_t)n; return; }
    t->size = t->size * 2 + 1024; t->text = (char *)realloc(t->text, t->size);
  }
}
static void zg_quote(ZgText *t, const char *p) {
  zg_add(t, "\"");
  for (; *p; p++) zg_add(t, *p == '"' || *p == '\\' ? "\\%c" : (unsigned char)*p < 32 ? " " : "%c", *p);
  zg_add(t, "\"");
}

/* ---- The socket (RFC 6455). */
static int zg_move(int s, void *data, size_t size, int is_writing) {
  for (char *p = (char *)data; size > 0;) {
    ssize_t n = is_writing ? send(s, p, size, MSG_NOSIGNAL) : recv(s, p, size, 0);
    if (n <= 0) return 0;
    p += n; size -= (size_t)n;
  }
  return 1;
}
static int zg_send(int s, int opcode, const char *text, size_t length) {
  unsigned char head[14] = {(unsigned char)(0x80 | opcode)};
  int n = length < 126 ? 2 : length < 65536 ? 4 : 10, ok; head[1] = (unsigned char)(0x80 | (n == 2 ? length : n == 4 ? 126 : 127));
  for (int i = 2; i < n; i++) head[i] = (unsigned char)((uint64_t)length >> (8 * (n - 1 - i)));
  unsigned char *masked = (unsigned char *)malloc(length + 14), *mask = head + n;
  for (int i = 0; i < 4; i++) mask[i] = (unsigned char)(rand() >> 4);
  memcpy(masked, head, (size_t)n + 4);
  for (size_t i = 0; i < length; i++) masked[(size_t)n + 4 + i] = (unsigned char)(text[i] ^ mask[i & 3]);
  ok = zg_move(s, masked, (size_t)n + 4 + length, 1); free(masked); return ok;
}
static int zg_connect(ZygopodLink *l) {
  struct addrinfo hints = {0}, *list = NULL;
  struct timeval patience = {2, 0};
  ZgText t = {0}; char answer[2048]; int s = -1, n = 0, ok; hints.ai_socktype = SOCK_STREAM;
  if (getaddrinfo(l->host, l->port, &hints, &list) != 0) return -1;
  for (struct addrinfo *one = list; one && s < 0; one = one->ai_next) {
    s = socket(one->ai_family, SOCK_STREAM, 0);
    if (s >= 0 && connect(s, one->ai_addr, one->ai_addrlen) != 0) { close(s); s = -1; }
  }
  freeaddrinfo(list);
  if (s < 0) return -1;
  for (int i = 0; i < 2; i++) setsockopt(s, SOL_SOCKET, i ? SO_RCVTIMEO : SO_SNDTIMEO, &patience, sizeof patience);
  zg_add(&t, "GET /api/v1/link HTTP/1.1\r\nHost: %s:%s\r\nUpgrade: websocket\r\nConnection: Upgrade\r\nSec-WebSocket-Key: ", l->host, l->port);
  for (int i = 0; i < 21; i++) zg_add(&t, "%c", "ABCDEFGHIJKLMNOPQRSTUVWXYZabcdef"[(rand() >> 5) & 31]);
  zg_add(&t, "A==\r\nSec-WebSocket-Version: 13\r\nSec-WebSocket-Protocol: zygopod.link.v1\r\n");
  if (l->token) zg_add(&t, "Authorization: Bearer %s\r\n", l->token);
  zg_add(&t, "\r\n"); ok = zg_move(s, t.text, t.length, 1); free(t.text);
  while (ok && n < 2047) { /* byte by byte: what follows the head is the first frame's */
    if (recv(s, answer + n, 1, 0) != 1) break;
    answer[++n] = 0;
    if (n >= 4 && memcmp(answer + n - 4, "\r\n\r\n", 4) == 0) return strncmp(answer, "HTTP/1.1 101", 12) == 0 ? s : (close(s), -1);
  }
  close(s); return -1;
}

/* ---- What is said. */
static int zg_hello(ZygopodLink *l) {
  ZgText t = {0};
  zg_add(&t, "{\"type\":\"hello\",\"protocol\":1,%s%s%s", l->has_session ? "\"session\":\"" : "", l->session, l->has_session ? "\"," : "");
  zg_add(&t, "\"game\":\"%s\",\"build\":\"%s\",\"hz\":%.17g,\"unit\":\"%s\",\"yUp\":%s,\"columns\":[\"", l->game, l->build ? l->build : "", l->hz,
         l->unit ? l->unit : "px", l->y_up ? "true" : "false");
  for (const char *p = l->columns; *p; p++) zg_add(&t, *p == ',' ? "\",\"" : "%c", *p);
  zg_add(&t, "\"],\"parameters\":[");
  for (int i = 0; i < l->count; i++) {
    ZygopodNumber *n = &l->numbers[i];
    zg_add(&t, "%s{\"name\":\"%s\",\"value\":%.17g", i ? "," : "", n->name, *n->value);
    if (n->path) zg_add(&t, ",\"path\":\"%s\"", n->path);
    zg_add(&t, n->min < n->max ? ",\"min\":%.17g,\"max\":%.17g}" : "}", n->min, n->max);
  }
  zg_add(&t, "],\"can\":[%s", l->count ? "\"set\"" : "");
  for (int i = 0; i < l->ability_count; i++) zg_add(&t, "%s\"%s\"", i || l->count ? "," : "", l->abilities[i].name);
  zg_add(&t, "]}");
  int ok = zg_send(l->socket, 1, t.text, t.length); free(t.text); return ok;
}
/* Sends some of the rows that are due, with the events in their ticks; 0 on a broken link, 2 if there is more. */
static int zg_rows(ZygopodLink *l) {
  ZgText t = {0}, h = {0};
  double rows[ZG_MOST][ZG_WIDTH]; ZygopodHand hands[ZG_MOST]; int count = 0, events = 0, more, ok;
  pthread_mutex_lock(&l->lock); /* only copies: the game's frame may wait for it */
  for (; l->is_linked && l->next < l->end && count < ZG_MOST && count * l->width < 2000 && events < ZG_MOST; l->next++, count++) {
    memcpy(rows[count], zg_row_at(l, l->next), sizeof(double) * (size_t)l->width);
    for (; l->hand_next < l->hand_end && events < ZG_MOST && l->hands[l->hand_next % ZG_HANDS].at <= rows[count][0]; l->hand_next++)
      hands[events++] = l->hands[l->hand_next % ZG_HANDS];
  }
  more = count > 0 && l->next < l->end; pthread_mutex_unlock(&l->lock);
  if (count == 0) return 1;
  zg_add(&t, "{\"type\":\"rows\",\"rows\":[");
  for (int r = 0; r < count; r++) {
    for (int i = 0; i < l->width; i++) zg_add(&t, i ? ",%.17g" : r ? ",[%.17g" : "[%.17g", rows[r][i]);
    zg_add(&t, "]");
  }
  for (int i = 0; i < events; i++) zg_add(&h, "%s{\"at\":%.17g,%s}", i ? "," : "", hands[i].at, hands[i].text);
  zg_add(&t, "],\"hands\":[%s]}", events ? h.text : ""); ok = zg_send(l->socket, 1, t.text, t.length); free(t.text); free(h.text);
  return ok ? 1 + more : 0;
}
static void zg_hear(ZygopodLink *l, char *json) {
  char type[24];
  zygopod_text(json, "type", type, sizeof type); pthread_mutex_lock(&l->lock);
  if (strcmp(type, "welcome") == 0) {
    zygopod_text(json, "session", l->session, sizeof l->session); l->has_session = 1;
    double from = zygopod_number(json, "from", 0);
    for (l->next = l->begin; l->next < l->end && zg_row_at(l, l->next)[0] < from;) l->next++;
    for (l->hand_next = l->hand_begin; l->hand_next < l->hand_end && l->hands[l->hand_next % ZG_HANDS].at < from;) l->hand_next++;
    l->is_linked = 1;
  } else if (strcmp(type, "problem") != 0 && l->in < 64) { l->inbox[l->in++] = json; json = NULL; }
  pthread_mutex_unlock(&l->lock); free(json);
}
/* One frame, if there is one; 0 on a broken link. */
static int zg_frame(ZygopodLink *l, int patience) {
  struct pollfd p = {l->socket, POLLIN, 0};
  unsigned char head[10];
  if (poll(&p, 1, patience) <= 0) return 1;
  if (!zg_move(l->socket, head, 2, 0)) return 0;
  uint64_t length = head[1] & 127; int more = length == 126 ? 2 : length == 127 ? 8 : 0, opcode = head[0] & 15;
  if (more && !zg_move(l->socket, head + 2, (size_t)more, 0)) return 0;
  if (more) { length = 0; for (int i = 0; i < more; i++) length = length << 8 | head[2 + i]; }
  if (length > 1 << 20) return 0;
  char *text = (char *)calloc((size_t)length + 1, 1); int ok = length == 0 || zg_move(l->socket, text, (size_t)length, 0);
  if (ok && opcode == 1) { zg_hear(l, text); return 1; }
  if (ok && opcode == 9) ok = zg_send(l->socket, 10, text, (size_t)length);
  if (opcode == 8) ok = 0;
  free(text); return ok;
}
static int zg_answers(ZygopodLink *l) {
  char *said[64]; pthread_mutex_lock(&l->lock); int count = l->is_linked ? l->out : 0, ok = 1; memcpy(said, l->outbox, sizeof said);
  if (count) l->out = 0;
  pthread_mutex_unlock(&l->lock);
  for (int i = 0; i < count; i++) { ok = ok && zg_send(l->socket, 1, said[i], strlen(said[i])); free(said[i]); }
  return ok;
}
static void *zg_run(void *of) {
  ZygopodLink *l = (ZygopodLink *)of;
  for (int pause = 500; !l->over; pause = pause * 3 / 2 > 5000 ? 5000 : pause * 3 / 2) {
    l->socket = zg_connect(l); int ok = l->socket >= 0 && zg_hello(l), rows = 1;
    while (ok && (!l->over || rows == 2)) {
      ok = zg_frame(l, rows == 2 ? 0 : 2) && zg_answers(l); rows = ok ? zg_rows(l) : 0; ok = ok && rows;
      if (l->is_linked) pause = 400;
    }
    if (ok) zg_send(l->socket, 1, "{\"type\":\"bye\"}", 14);
    if (l->socket >= 0) close(l->socket);
    pthread_mutex_lock(&l->lock); l->is_linked = 0; pthread_mutex_unlock(&l->lock);
    for (int waited = 0; waited < pause && !l->over; waited += 20) poll(NULL, 0, 20);
  }
  return NULL;
}

/* ---- For the game. Fill in host, port, game, hz and columns of a zeroed link, watch its numbers, and open it. */
static inline void zygopod_watch(ZygopodLink *l, const char *name, const char *path, double *value, double min, double max) {
  if (l->count < ZG_NAMES) l->numbers[l->count++] = (ZygopodNumber){name, path, value, min, max};
}
/* What the game can do: "restart", "place", "pause" (also run and step), "tape". */
static inline void zygopod_on(ZygopodLink *l, const char *ability, ZygopodHandler run, void *user) {
  if (l->ability_count == 4) return;
  l->abilities[l->ability_count].name = ability; l->abilities[l->ability_count].run = run; l->abilities[l->ability_count++].user = user;
}
static inline void zygopod_open(ZygopodLink *l) {
  l->width = 1;
  for (const char *p = l->columns; *p; p++) l->width += *p == ',';
  l->rows = (double *)malloc(sizeof(double) * ZG_KEPT * (size_t)l->width); l->hands = (ZygopodHand *)malloc(sizeof(ZygopodHand) * ZG_HANDS);
  pthread_mutex_init(&l->lock, NULL); pthread_create(&l->thread, NULL, zg_run, l);
}
/* A change of the hands in the tick that comes: `"press":"right"`, `"stick":[0.5,0]`. */
static inline void zygopod_hand(ZygopodLink *l, double tick, const char *event) {
  pthread_mutex_lock(&l->lock); ZygopodHand *one = &l->hands[l->hand_end++ % ZG_HANDS]; one->at = tick;
  snprintf(one->text, sizeof one->text, "%s", event);
  if (l->hand_end - l->hand_begin > ZG_HANDS) l->hand_begin++;
  if (l->hand_next < l->hand_begin) l->hand_next = l->hand_begin;
  pthread_mutex_unlock(&l->lock);
}
static const char *zg_do(ZygopodLink *l, const char *json, char *name) {
  char type[24];
  zygopod_text(json, "type", type, sizeof type);
  if (strcmp(type, "set") == 0) {
    const char *values = zygopod_member(json, "values");
    for (const char *p = values ? zg_space(values + 1) : ""; *p == '"'; p = zg_space(zg_after(p))) {
      const char *end = zg_after(p); snprintf(name, 81, "%.*s", (int)(end - p - 2), p + 1); ZygopodNumber *n = l->numbers;
      while (n < l->numbers + l->count && strcmp(n->name, name) != 0) n++;
      p = zg_space(end); double value = strtod(p, NULL);
      if (n == l->numbers + l->count) return "no such number";
      if (*p == '"' || *p == 't' || *p == 'f' || (n->min < n->max && !(value >= n->min && value <= n->max))) return "not a value of this number";
      *n->value = value;
    }
    name[0] = 0; return NULL;
  }
  const char *ability = strcmp(type, "run") == 0 || strcmp(type, "step") == 0 ? "pause" : type;
  for (int i = 0; i < l->ability_count; i++) if (strcmp(l->abilities[i].name, ability) == 0) return l->abilities[i].run(l->abilities[i].user, json);
  return "the game can’t do that";
}
/* Carries out what was requested since the last call; zygopod_row does it, a game that is paused calls it itself. */
static inline void zygopod_poll(ZygopodLink *l) {
  char *said[64], name[81]; pthread_mutex_lock(&l->lock); int count = l->in; memcpy(said, l->inbox, sizeof said); l->in = 0;
  double tick = l->end > l->begin ? zg_row_at(l, l->end - 1)[0] + 1 : 0; pthread_mutex_unlock(&l->lock);
  for (int i = 0; i < count; i++) {
    ZgText t = {0}; name[0] = 0; const char *why = zg_do(l, said[i], name);
    zg_add(&t, "{\"type\":\"%s\",\"id\":%.0f", why ? "refused" : "done", zygopod_number(said[i], "id", 0));
    if (why && name[0]) { zg_add(&t, ",\"name\":"); zg_quote(&t, name); }
    if (why) { zg_add(&t, ",\"why\":"); zg_quote(&t, why); zg_add(&t, "}"); } else zg_add(&t, ",\"tick\":%.0f}", tick);
    free(said[i]); pthread_mutex_lock(&l->lock);
    if (l->out < 64) l->outbox[l->out++] = t.text; else free(t.text);
    pthread_mutex_unlock(&l->lock);
  }
}
/* Records the row of a tick, in the order of the columns. Call once a tick, with rising ticks. */
static inline void zygopod_row(ZygopodLink *l, const double *row) {
  pthread_mutex_lock(&l->lock); memcpy(zg_row_at(l, l->end++), row, sizeof(double) * (size_t)l->width);
  if (l->end - l->begin > ZG_KEPT) l->begin++;
  if (l->next < l->begin) l->next = l->begin;
  pthread_mutex_unlock(&l->lock);
  zygopod_poll(l);
}
/* Sends what is left, says goodbye, and frees what the link has taken. */
static inline void zygopod_close(ZygopodLink *l) {
  l->over = 1; pthread_join(l->thread, NULL); free(l->rows); free(l->hands);
}
#endif
