// Links Motion.cs to Zygopod: its live numbers, the state after each tick, and hands from there. Beside ZygopodLink.cs; MIT license.
using System;
using System.Collections.Generic;
using System.Globalization;
using Zygopod;

/// <summary>Call Begin before each Motion.Tick and End after it; report the hands here, not to the Hands themselves.</summary>
public sealed class MotionLink
{
    static readonly string[] Controls = { "up", "down", "left", "right", "sprint", "sprintToggle", "autoRun", "plant", "action", "launch", "pointer" };
    static readonly string[] Swipes = { "", "up", "right", "down", "left" };
    public Body Body = new Body();
    public readonly Hands Hands = new Hands();
    public readonly Link Link;
    public int Tick;
    readonly List<string> events = new List<string>();
    readonly List<Func<double>> gets = new List<Func<double>>();
    readonly List<Action<double>> sets = new List<Action<double>>();
    List<object> tape = new List<object>();
    int at, began;

    public MotionLink(LinkOptions options, double x = 0, double y = 0, double facing = 90)
    {
        options.Columns = new[] { "tick", "x", "y", "vx", "vy", "facing", "gait", "stamina" };
        Link = new Link(options);
        // live
        Link.On("restart", message =>
        {
            var kept = gets.ConvertAll(get => get());
            Body = new Body();
            for (var i = 0; i < kept.Count; i++) sets[i](kept[i]);
            Motion.Place(Body, x, y, facing);
            return null;
        });
        Link.On("place", message => { Body.x = (double)message["x"]; Body.y = (double)message["y"]; Body.vx = Body.vy = 0; return null; });
        Link.On("tape", message => { tape = (List<object>)message["hands"]; at = 0; began = Tick; return null; });
        Motion.Place(Body, x, y, facing);
    }

    void Live(string path, Func<double> get, Action<double> set, double least, double most)
    {
        gets.Add(get);
        sets.Add(set);
        Link.Watch(path, () => get(), value =>
        {
            if (!(value is double) || !((double)value >= least && (double)value <= most)) return "not a value of this number";
            set((double)value);
            return null;
        }, path, least, most);
    }

    void Note(string kind, string word) { events.Add("\"" + kind + "\":\"" + word + "\""); }
    void Note(string kind, double x, double y) { events.Add(string.Format(CultureInfo.InvariantCulture, "\"{0}\":[{1:G17},{2:G17}]", kind, x, y)); }
    public void Press(Control control) { Note("press", Controls[(int)control]); Hands.Press(control); }
    public void Release(Control control) { Note("release", Controls[(int)control]); Hands.Release(control); }
    public void Stick(double x, double y) { Note("stick", x, y); Hands.Stick(x, y); }
    public void Point(double x, double y) { Note("point", x, y); Hands.Point(x, y); }
    public void Swipe(SwipeTo to) { Note("swipe", Swipes[(int)to]); Hands.Swipe(to); }

    /// <summary>Applies the replayed hands of the tick that comes.</summary>
    public void Begin()
    {
        for (; at < tape.Count; at++)
        {
            var change = (Dictionary<string, object>)tape[at];
            if ((double)change["at"] > Tick - began) return;
            foreach (var one in change)
            {
                var pair = one.Value as List<object>;
                if (one.Key == "press") Press((Control)Array.IndexOf(Controls, (string)one.Value));
                if (one.Key == "release") Release((Control)Array.IndexOf(Controls, (string)one.Value));
                if (one.Key == "swipe") Swipe((SwipeTo)Array.IndexOf(Swipes, (string)one.Value));
                if (one.Key == "stick") Stick((double)pair[0], (double)pair[1]);
                if (one.Key == "point") Point((double)pair[0], (double)pair[1]);
            }
        }
    }

    /// <summary>Reports the state after a tick.</summary>
    public void End()
    {
        var b = Body;
        Link.Row(new[] { Tick++, b.x + 0.0, b.y + 0.0, b.vx + 0.0, b.vy + 0.0, b.facingAngle * 57.29577951308232 + 0.0, b.gaitIndex, b.gaitStamina + 0.0 }, events.ToArray());
        events.Clear();
    }
}
