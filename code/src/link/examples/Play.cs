// A game of a few lines: a scripted player, driven by `go N` on stdin up to tick N.
using System;
using Zygopod;

static class Play
{
    static void Main(string[] args)
    {
        var game = new MotionLink(new LinkOptions { Host = args[0], Port = int.Parse(args[1]), Game = args[2] }, 100, 100, 0);
        game.Link.Open();
        for (string line; (line = Console.ReadLine()) != null;)
        {
            for (var to = line.StartsWith("go ") ? int.Parse(line.Substring(3)) : 0; game.Tick < to;)
            {
                switch (game.Tick < 600 ? game.Tick % 120 : -1)
                {
                    case 10: game.Press(Control.Right); break;
                    case 30: game.Press(Control.Sprint); break;
                    case 55: game.Press(Control.Down); break;
                    case 80: game.Release(Control.Right); break;
                    case 95: game.Release(Control.Sprint); break;
                    case 110: game.Release(Control.Down); break;
                }
                game.Begin();
                Motion.Tick(game.Body, game.Hands, Motion.Free);
                game.End();
            }
            game.Link.Poll();
            Console.WriteLine("at " + game.Tick);
        }
        game.Link.Close();
    }
}
