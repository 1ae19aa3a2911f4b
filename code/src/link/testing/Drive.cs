// Drives a link as a test asks: `go N` on stdin drives up to tick N.
using System;
using System.Collections.Generic;
using System.Diagnostics;
using System.Globalization;
using System.Threading;
using Zygopod;

static class Drive
{
    static void Main(string[] args)
    {
        double walk = 140;
        int restarts = 0, tick = 0;
        var took = new List<double>();
        var link = new Link(new LinkOptions { Host = args[0], Port = int.Parse(args[1]), Game = args[2] });
        link.Watch("walk_speed", () => walk, value =>
        {
            if (!(value is double) || (double)value < 0 || (double)value > 1000) return "not a value of this number";
            walk = (double)value;
            return null;
        }, "pace.walkSpeed", 0, 1000);
        link.On("restart", message => { restarts++; return null; });
        link.On("place", message => (double)message["x"] < 0 ? "outside \"here\"" : null);
        link.Open();
        for (string line; (line = Console.ReadLine()) != null;)
        {
            if (line.StartsWith("go "))
            {
                for (var to = int.Parse(line.Substring(3)); tick < to; tick++)
                {
                    var begun = Stopwatch.GetTimestamp();
                    var row = new double[] { tick, tick * 0.5, -tick };
                    if (tick % 50 == 0) link.Row(row, "\"press\":\"up\""); else link.Row(row);
                    took.Add((Stopwatch.GetTimestamp() - begun) * 1000.0 / Stopwatch.Frequency);
                    if (tick % 200 == 0) Thread.Sleep(1);
                }
                Console.WriteLine("at " + tick);
            }
            else
            {
                link.Poll();
                Console.WriteLine("walk " + walk.ToString(CultureInfo.InvariantCulture) + " restarts " + restarts);
            }
        }
        link.Close();
        took.Sort();
        Console.WriteLine(string.Format(CultureInfo.InvariantCulture, "took {0} {1} {2}", took[took.Count / 2], took[took.Count * 99 / 100], took[took.Count - 1]));
    }
}
