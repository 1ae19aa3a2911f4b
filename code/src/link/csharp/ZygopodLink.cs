// Links a game to Zygopod: its rows and hands go there, and numbers that are dragged there come back. One file, the base library alone; MIT license.
// Nothing in the game's thread waits: a thread of its own connects, sends and listens. Requests are carried out in Row, between two ticks.
// The link is for this machine: ws://, no TLS.
using System;
using System.Collections.Generic;
using System.Globalization;
using System.IO;
using System.Net.Sockets;
using System.Text;
using System.Threading;

namespace Zygopod
{
    /// <summary>What a game calls itself. Columns begin with "tick"; Unit is px, m or tiles.</summary>
    public sealed class LinkOptions
    {
        public string Host = "127.0.0.1", Token, Game = "Game", Build = "", Unit = "px";
        public int Port = 4380;
        public double Hz = 60;
        public bool YUp;
        public string[] Columns = { "tick", "x", "y" };
    }

    public sealed class Link
    {
        const int Kept = 36000; // rows that are kept to be sent again: ten minutes at a rate of 60
        const int Most = 40; // rows of a message

        sealed class Number { public string Name, Path; public Func<object> Get; public Func<object, string> Set; public double? Min, Max; }

        readonly LinkOptions options;
        readonly List<Number> numbers = new List<Number>();
        readonly Dictionary<string, Func<Dictionary<string, object>, string>> handlers = new Dictionary<string, Func<Dictionary<string, object>, string>>();
        readonly object gate = new object();
        readonly double[][] rows = new double[Kept][]; // a ring
        readonly List<KeyValuePair<double, string>> hands = new List<KeyValuePair<double, string>>();
        int begin, end, next, nextHand;
        bool isLinked;
        volatile bool isOver, isAsked;
        readonly Queue<Dictionary<string, object>> inbox = new Queue<Dictionary<string, object>>();
        readonly Queue<string> outbox = new Queue<string>();
        string session, parameters = "";
        Thread thread;
        NetworkStream stream;

        public Link(LinkOptions options) { this.options = options; }

        /// <summary>Registers a number: get returns it (a double, bool or string), set returns why not, or null.</summary>
        public Link Watch(string name, Func<object> get, Func<object, string> set, string path = null, double? min = null, double? max = null)
        {
            numbers.Add(new Number { Name = name, Path = path, Get = get, Set = set, Min = min, Max = max }); return this;
        }

        /// <summary>Registers what the game can do: restart, place, pause (also run and step), tape. The handler returns why not, or null.</summary>
        public Link On(string ability, Func<Dictionary<string, object>, string> handler) { handlers[ability] = handler; return this; }

        public Link Open() { Describe(); (thread = new Thread(Run) { IsBackground = true }).Start(); return this; }

        /// <summary>Records the row of a tick, with the changes of the hands in it ("\"press\":\"right\""). Call once a tick, with rising ticks.</summary>
        public void Row(double[] values, params string[] events)
        {
            lock (gate)
            {
                rows[end++ % Kept] = values;
                foreach (var one in events) hands.Add(new KeyValuePair<double, string>(values[0], one));
                if (end - begin > Kept) begin++;
                next = Math.Max(next, begin);
                if (hands.Count > 20000)
                {
                    int old = Math.Max(hands.FindIndex(one => one.Key >= rows[begin % Kept][0]), hands.Count - 10000);
                    hands.RemoveRange(0, old);
                    nextHand = Math.Max(0, nextHand - old);
                }
            }
            if (isAsked) Poll();
        }

        /// <summary>Carries out what was requested since the last call; Row does it, a game that is paused calls it itself.</summary>
        public void Poll()
        {
            for (;;)
            {
                Dictionary<string, object> message;
                double tick;
                lock (gate)
                {
                    if (!(isAsked = inbox.Count > 0)) return;
                    message = inbox.Dequeue();
                    tick = end > begin ? rows[(end - 1) % Kept][0] + 1 : 0;
                }
                string name = null, why = (string)message["type"] == "set" ? Set((Dictionary<string, object>)message["values"], out name) : Do(message);
                var id = Text(message["id"]);
                var answer = why == null ? "{\"type\":\"done\",\"id\":" + id + ",\"tick\":" + Text(tick) + "}"
                    : "{\"type\":\"refused\",\"id\":" + id + (name == null ? "" : ",\"name\":" + Text(name)) + ",\"why\":" + Text(why) + "}";
                Describe();
                lock (gate) outbox.Enqueue(answer);
            }
        }

        /// <summary>Sends what is left, and says goodbye.</summary>
        public void Close() { isOver = true; thread.Join(); }

        string Set(Dictionary<string, object> values, out string name)
        {
            foreach (var one in values)
            {
                var number = numbers.Find(known => known.Name == one.Key);
                var why = number == null ? "no such number" : number.Set(one.Value);
                name = one.Key;
                if (why != null) return why;
            }
            name = null;
            return null;
        }

        string Do(Dictionary<string, object> message)
        {
            var type = (string)message["type"];
            Func<Dictionary<string, object>, string> handler;
            return handlers.TryGetValue(type == "run" || type == "step" ? "pause" : type, out handler) ? handler(message) : "the game can’t do that";
        }

        void Describe()
        {
            var each = numbers.ConvertAll(one => "{\"name\":" + Text(one.Name) + ",\"value\":" + Text(one.Get())
                + (one.Path == null ? "" : ",\"path\":" + Text(one.Path)) + (one.Min == null ? "" : ",\"min\":" + Text(one.Min.Value))
                + (one.Max == null ? "" : ",\"max\":" + Text(one.Max.Value)) + "}");
            lock (gate) parameters = string.Join(",", each);
        }

        void Run()
        {
            for (var pause = 500; !isOver; pause = Math.Min(5000, pause * 3 / 2))
            {
                try
                {
                    using (var client = new TcpClient()) { if (Serve(client)) return; }
                }
                catch (Exception error) { if (error is ThreadAbortException) throw; }
                lock (gate) { if (isLinked) pause = 400; isLinked = false; }
                for (var waited = 0; waited < pause && !isOver; waited += 20) Thread.Sleep(20);
            }
        }

        /// <summary>Serves a connection; true once the game has said goodbye.</summary>
        bool Serve(TcpClient client)
        {
            client.NoDelay = true;
            if (!client.ConnectAsync(options.Host, options.Port).Wait(2000)) throw new IOException("nobody is there");
            stream = client.GetStream();
            stream.ReadTimeout = stream.WriteTimeout = 2000;
            var head = Encoding.ASCII.GetBytes("GET /api/v1/link HTTP/1.1\r\nHost: " + options.Host + ":" + options.Port
                + "\r\nUpgrade: websocket\r\nConnection: Upgrade\r\nSec-WebSocket-Key: " + Convert.ToBase64String(Guid.NewGuid().ToByteArray())
                + "\r\nSec-WebSocket-Version: 13\r\nSec-WebSocket-Protocol: zygopod.link.v1\r\n"
                + (options.Token == null ? "" : "Authorization: Bearer " + options.Token + "\r\n") + "\r\n");
            stream.Write(head, 0, head.Length);
            var answer = "";
            while (!answer.EndsWith("\r\n\r\n") && answer.Length < 4096) answer += (char)Read(1)[0];
            if (!answer.StartsWith("HTTP/1.1 101")) throw new IOException("no link here");
            Send(1, Encoding.UTF8.GetBytes(Hello()));
            for (var more = false; ;)
            {
                if (client.Client.Poll(more ? 0 : 2000, SelectMode.SelectRead)) Hear();
                string said;
                while ((said = Due()) != null) Send(1, Encoding.UTF8.GetBytes(said));
                said = Rows(out more);
                if (said != null) Send(1, Encoding.UTF8.GetBytes(said));
                if (!isOver || more) continue;
                Send(1, Encoding.UTF8.GetBytes("{\"type\":\"bye\"}"));
                return true;
            }
        }

        string Hello()
        {
            var can = new List<string>(handlers.Keys);
            if (numbers.Count > 0) can.Add("set");
            string now;
            lock (gate) now = parameters;
            return "{\"type\":\"hello\",\"protocol\":1" + (session == null ? "" : ",\"session\":" + Text(session)) + ",\"game\":" + Text(options.Game)
                + ",\"build\":" + Text(options.Build) + ",\"hz\":" + Text(options.Hz) + ",\"unit\":" + Text(options.Unit) + ",\"yUp\":" + Text(options.YUp)
                + ",\"columns\":[" + string.Join(",", Array.ConvertAll(options.Columns, Text)) + "],\"parameters\":[" + now
                + "],\"can\":[" + string.Join(",", can.ConvertAll(Text)) + "]}";
        }

        string Due() { lock (gate) return isLinked && outbox.Count > 0 ? outbox.Dequeue() : null; }

        /// <summary>The message of some of the rows that are due, with the events in their ticks; null if there are none.</summary>
        string Rows(out bool more)
        {
            var some = new List<double[]>();
            var events = new List<KeyValuePair<double, string>>();
            lock (gate) // only copies: the game's frame may wait for it
            {
                while (isLinked && next < end && some.Count < Most) some.Add(rows[next++ % Kept]);
                while (some.Count > 0 && nextHand < hands.Count && hands[nextHand].Key <= some[some.Count - 1][0]) events.Add(hands[nextHand++]);
                more = some.Count > 0 && next < end;
            }
            if (some.Count == 0) return null;
            return "{\"type\":\"rows\",\"rows\":[" + string.Join(",", some.ConvertAll(row => "[" + string.Join(",", Array.ConvertAll(row, one => Text(one))) + "]"))
                + "],\"hands\":[" + string.Join(",", events.ConvertAll(one => "{\"at\":" + Text(one.Key) + "," + one.Value + "}")) + "]}";
        }

        void Hear()
        {
            byte[] head = Read(2);
            int size = head[1] & 127, opcode = head[0] & 15;
            if (size == 127) throw new IOException("a frame that is too large");
            if (size == 126) { var more = Read(2); size = more[0] << 8 | more[1]; }
            var data = Read(size);
            if (opcode == 8) throw new IOException("the link is closed");
            if (opcode == 9) Send(10, data);
            if (opcode != 1) return;
            var at = 0;
            var message = Value(Encoding.UTF8.GetString(data), ref at) as Dictionary<string, object>;
            if (message == null || (string)message["type"] == "problem") return;
            lock (gate)
            {
                if ((string)message["type"] != "welcome") { inbox.Enqueue(message); isAsked = true; return; }
                session = (string)message["session"];
                var from = (double)message["from"];
                for (next = end; next > begin && rows[(next - 1) % Kept][0] >= from;) next--;
                for (nextHand = hands.Count; nextHand > 0 && hands[nextHand - 1].Key >= from;) nextHand--;
                isLinked = true;
            }
        }

        byte[] Read(int size)
        {
            var data = new byte[size];
            for (var got = 0; got < size;)
            {
                var more = stream.Read(data, got, size - got);
                if (more == 0) throw new IOException("the link is closed");
                got += more;
            }
            return data;
        }

        /// <summary>A frame of RFC 6455, masked with zeros: nothing between here and the server reads it.</summary>
        void Send(int opcode, byte[] data)
        {
            int size = data.Length, start = size < 126 ? 6 : 8;
            var frame = new byte[start + size];
            frame[0] = (byte)(0x80 | opcode);
            frame[1] = (byte)(0x80 | (size < 126 ? size : 126));
            if (size > 125) { frame[2] = (byte)(size >> 8); frame[3] = (byte)size; }
            Array.Copy(data, 0, frame, start, size);
            stream.Write(frame, 0, frame.Length);
        }

        static string Text(object value)
        {
            if (value is bool) return (bool)value ? "true" : "false";
            if (!(value is string)) return Convert.ToDouble(value, CultureInfo.InvariantCulture).ToString("G17", CultureInfo.InvariantCulture);
            var text = new StringBuilder("\"");
            foreach (var c in (string)value) text.Append(c == '"' || c == '\\' ? "\\" + c : c < ' ' ? " " : c.ToString());
            return text.Append('"').ToString();
        }

        /// <summary>Reads a value of JSON: double, bool, string, null, List or Dictionary; End at the end of a list or an object.</summary>
        static readonly object End = new object();
        static object Value(string text, ref int at)
        {
            while (at < text.Length && " \n\r\t,:".IndexOf(text[at]) >= 0) at++;
            if (at >= text.Length) throw new FormatException();
            var c = text[at++];
            if (c == '}' || c == ']') return End;
            if (c == '"')
            {
                var found = new StringBuilder();
                for (; text[at] != '"'; at++)
                {
                    if (text[at] != '\\') { found.Append(text[at]); continue; }
                    c = text[++at];
                    if (c == 'u') { found.Append((char)Convert.ToInt32(text.Substring(at + 1, 4), 16)); at += 4; }
                    else found.Append(c == 'n' ? '\n' : c == 't' ? '\t' : c == 'r' ? '\r' : c);
                }
                at++;
                return found.ToString();
            }
            if (c == '[')
            {
                var list = new List<object>();
                for (object one; (one = Value(text, ref at)) != End;) list.Add(one);
                return list;
            }
            if (c == '{')
            {
                var members = new Dictionary<string, object>();
                for (object name; (name = Value(text, ref at)) != End;) members[(string)name] = Value(text, ref at);
                return members;
            }
            var from = at - 1;
            while (at < text.Length && (char.IsLetterOrDigit(text[at]) || "+-.".IndexOf(text[at]) >= 0)) at++;
            var word = text.Substring(from, at - from);
            return word == "true" ? true : word == "false" ? false : word == "null" ? null : (object)double.Parse(word, CultureInfo.InvariantCulture);
        }
    }
}
