/* Drives a link as a test asks: `go N` on stdin drives up to tick N. */
#include "zygopod_link.h"
static const char *restarted(void *user, const char *json) { (void)json; ++*(int *)user; return NULL; }
static const char *placed(void *user, const char *json) { (void)user; return zygopod_number(json, "x", 0) < 0 ? "outside \"here\"" : NULL; }
static int by(const void *a, const void *b) { return (*(double *)a > *(double *)b) - (*(double *)a < *(double *)b); }
static double now(void) { struct timespec t; clock_gettime(CLOCK_MONOTONIC, &t); return t.tv_sec * 1e3 + t.tv_nsec / 1e6; }
static double took[200000];
int main(int count, char **args) {
  double walk = 140;
  int restarts = 0, tick = 0, to;
  ZygopodLink link = {.host = args[1], .port = args[2], .game = args[3], .hz = 60, .columns = "tick,x,y"};
  (void)count;
  zygopod_watch(&link, "walk_speed", "pace.walkSpeed", &walk, 0, 1000);
  zygopod_on(&link, "restart", restarted, &restarts);
  zygopod_on(&link, "place", placed, NULL);
  zygopod_open(&link);
  char line[64];
  while (fgets(line, sizeof line, stdin)) {
    if (sscanf(line, "go %d", &to) == 1) {
      for (; tick < to; tick++) {
        double row[] = {tick, tick * 0.5, -(double)tick}, begun = now();
        if (tick % 50 == 0) zygopod_hand(&link, tick, "\"press\":\"up\"");
        zygopod_row(&link, row);
        took[tick] = now() - begun;
        if (tick % 200 == 0) poll(NULL, 0, 1);
      }
      printf("at %d\n", tick);
    } else {
      zygopod_poll(&link);
      printf("walk %g restarts %d\n", walk, restarts);
    }
    fflush(stdout);
  }
  zygopod_close(&link);
  qsort(took, (size_t)tick, sizeof *took, by);
  printf("took %g %g %g\n", took[tick / 2], took[tick * 99 / 100], took[tick - 1]);
  return 0;
}
