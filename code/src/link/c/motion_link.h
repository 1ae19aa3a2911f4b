/* Links motion.h to Zygopod: its live numbers, the state after each tick, and hands from there. Beside zygopod_link.h; MIT license.
 * Call motion_link_begin before each motion_tick and motion_link_end after it; report the hands here, not to the Hands themselves. */
#ifndef MOTION_LINK_H
#define MOTION_LINK_H
#include "motion.h"
#include "zygopod_link.h"

static const char *const ml_controls[] = {"up", "down", "left", "right", "sprint", "sprintToggle", "autoRun", "plant", "action", "launch", "pointer"};
static const char *const ml_swipes[] = {"", "up", "right", "down", "left"};
typedef struct {
  ZygopodLink link;
  Body body;
  Hands hands;
  double start[3], tick, began;
  char *tape;
  int at;
} MotionLink;

static int ml_word(const char *const *words, int count, const char *text) {
  for (int i = 0; i < count; i++) if (strcmp(words[i], text) == 0) return i;
  return -1;
}
static void ml_note(MotionLink *m, const char *kind, const char *word) {
  char event[64];
  snprintf(event, sizeof event, "\"%s\":\"%s\"", kind, word);
  zygopod_hand(&m->link, m->tick, event);
}
static void ml_pair(MotionLink *m, const char *kind, double x, double y) {
  char event[64];
  snprintf(event, sizeof event, "\"%s\":[%.17g,%.17g]", kind, x, y);
  zygopod_hand(&m->link, m->tick, event);
}
static inline void motion_link_press(MotionLink *m, int control) { ml_note(m, "press", ml_controls[control]); hands_press(&m->hands, control); }
static inline void motion_link_release(MotionLink *m, int control) { ml_note(m, "release", ml_controls[control]); hands_release(&m->hands, control); }
static inline void motion_link_stick(MotionLink *m, double x, double y) { ml_pair(m, "stick", x, y); hands_stick(&m->hands, x, y); }
static inline void motion_link_point(MotionLink *m, double x, double y) { ml_pair(m, "point", x, y); hands_point(&m->hands, x, y); }
static inline void motion_link_swipe(MotionLink *m, int swipe) { ml_note(m, "swipe", ml_swipes[swipe]); hands_swipe(&m->hands, swipe); }

static const char *ml_restart(void *of, const char *json) {
  MotionLink *m = (MotionLink *)of;
  double live[ZG_NAMES];
  (void)json;
  for (int i = 0; i < m->link.count; i++) live[i] = *m->link.numbers[i].value;
  motion_start(&m->body);
  for (int i = 0; i < m->link.count; i++) *m->link.numbers[i].value = live[i];
  motion_place(&m->body, m->start[0], m->start[1], m->start[2]);
  return NULL;
}
static const char *ml_place(void *of, const char *json) {
  Body *b = &((MotionLink *)of)->body;
  b->x = zygopod_number(json, "x", b->x);
  b->y = zygopod_number(json, "y", b->y);
  b->vx = b->vy = 0.0;
  return NULL;
}
static const char *ml_replay(void *of, const char *json) {
  MotionLink *m = (MotionLink *)of;
  free(m->tape);
  m->tape = (char *)malloc(strlen(json) + 1);
  strcpy(m->tape, json);
  m->at = 0;
  m->began = m->tick;
  return NULL;
}
/* Fill in game, hz, host and port of the link of a zeroed MotionLink, and its start: x, y, facing in degrees. */
static inline void motion_link_open(MotionLink *m) {
  Body *b = &m->body;
  motion_start(b);
  motion_place(b, m->start[0], m->start[1], m->start[2]);
  m->link.columns = "tick,x,y,vx,vy,facing,gait,stamina";
  /* live */
  (void)b;
  zygopod_on(&m->link, "restart", ml_restart, m);
  zygopod_on(&m->link, "place", ml_place, m);
  zygopod_on(&m->link, "tape", ml_replay, m);
  zygopod_open(&m->link);
}
/* Applies the replayed hands of the tick that comes. */
static inline void motion_link_begin(MotionLink *m) {
  const char *hands = m->tape ? zygopod_member(m->tape, "hands") : NULL, *event, *pair;
  char word[24];
  for (; (event = zygopod_element(hands, m->at)) && zygopod_number(event, "at", 0) <= m->tick - m->began; m->at++) {
    int control = (zygopod_text(event, "press", word, sizeof word), ml_word(ml_controls, 11, word));
    if (control >= 0) motion_link_press(m, control);
    control = (zygopod_text(event, "release", word, sizeof word), ml_word(ml_controls, 11, word));
    if (control >= 0) motion_link_release(m, control);
    control = (zygopod_text(event, "swipe", word, sizeof word), word[0] ? ml_word(ml_swipes, 5, word) : -1);
    if (control > 0) motion_link_swipe(m, control);
    if ((pair = zygopod_member(event, "stick"))) motion_link_stick(m, strtod(zygopod_element(pair, 0), NULL), strtod(zygopod_element(pair, 1), NULL));
    if ((pair = zygopod_member(event, "point"))) motion_link_point(m, strtod(zygopod_element(pair, 0), NULL), strtod(zygopod_element(pair, 1), NULL));
  }
}
/* Reports the state after a tick. */
static inline void motion_link_end(MotionLink *m) {
  Body *b = &m->body;
  double row[] = {m->tick, b->x + 0.0, b->y + 0.0, b->vx + 0.0, b->vy + 0.0, b->facing_angle * 57.29577951308232 + 0.0, b->gait_index, b->gait_stamina + 0.0};
  m->tick++;
  zygopod_row(&m->link, row);
}
#endif
