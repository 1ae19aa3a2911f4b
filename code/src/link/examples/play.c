/* A game of a few lines: a scripted player, driven by `go N` on stdin up to tick N. */
#include "motion_link.h"

static MotionLink game;

int main(int count, char **args) {
    char line[64];
    int to;
    (void)count;
    game.link.host = args[1];
    game.link.port = args[2];
    game.link.game = args[3];
    game.link.hz = 60;
    game.start[0] = game.start[1] = 100;
    motion_link_open(&game);
    while (fgets(line, sizeof line, stdin)) {
        for (to = sscanf(line, "go %d", &to) == 1 ? to : 0; game.tick < to;) {
            switch (game.tick < 600 ? (int)game.tick % 120 : -1) {
            case 10: motion_link_press(&game, HANDS_RIGHT); break;
            case 30: motion_link_press(&game, HANDS_SPRINT); break;
            case 55: motion_link_press(&game, HANDS_DOWN); break;
            case 80: motion_link_release(&game, HANDS_RIGHT); break;
            case 95: motion_link_release(&game, HANDS_SPRINT); break;
            case 110: motion_link_release(&game, HANDS_DOWN); break;
            }
            motion_link_begin(&game);
            motion_tick(&game.body, &game.hands, motion_free);
            motion_link_end(&game);
        }
        zygopod_poll(&game.link);
        printf("at %d\n", (int)game.tick);
        fflush(stdout);
    }
    zygopod_close(&game.link);
    return 0;
}
