-- Links a game to Zygopod: its rows and hands go there, and numbers that are dragged there come back. One file, needs LuaSocket; MIT license.
-- Nothing waits: row() sends and listens a little each tick, and without a server the game goes on. For this machine: ws://, no TLS; Lua 5.1 and newer.
local socket = require("socket")

local KEPT = 36000 -- rows that are kept to be sent again: ten minutes at a rate of 60
local MOST = 12 -- rows of a message: what a frame has time for
local EVERY = 0.002 -- seconds between two looks at the network
local PATIENCE = 2 -- seconds until an attempt to connect is given up

local Link = {}
Link.__index = Link

-- JSON.

local escapes = { ['"'] = '\\"', ["\\"] = "\\\\" }
local function quoted(text)
  return '"' .. text:gsub('["\\%c]', function(c) return escapes[c] or string.format("\\u%04x", c:byte()) end) .. '"'
end
local function number(value)
  return value == math.floor(value) and math.abs(value) < 2 ^ 53 and string.format("%.0f", value) or string.format("%.17g", value)
end
local json
local function list(values)
  local parts = {}
  for i, value in ipairs(values) do parts[i] = json(value) end
  return "[" .. table.concat(parts, ",") .. "]"
end
function json(value)
  local kind = type(value)
  if kind == "number" then return number(value) end
  if kind == "string" then return quoted(value) end
  if kind == "boolean" then return tostring(value) end
  if value[1] ~= nil or value.isList then return list(value) end
  local parts = {}
  for name, member in pairs(value) do parts[#parts + 1] = quoted(name) .. ":" .. json(member) end
  return "{" .. table.concat(parts, ",") .. "}"
end

local read
local function after(text, at) return text:find("[^%s,:]", at) or #text + 1 end
local plain = { n = "\n", t = "\t", r = "\r", b = "\b", f = "\f" }
local function readText(text, at)
  local parts, from = {}, at + 1
  while true do
    local stop = text:find('["\\]', from)
    if not stop then error("not JSON") end
    parts[#parts + 1] = text:sub(from, stop - 1)
    if text:sub(stop, stop) == '"' then return table.concat(parts), stop + 1 end
    local escape = text:sub(stop + 1, stop + 1)
    parts[#parts + 1] = escape == "u" and "?" or plain[escape] or escape
    from = stop + (escape == "u" and 6 or 2)
  end
end
local function readMembers(text, at, close)
  local found = {}
  at = after(text, at + 1)
  while text:sub(at, at) ~= close do
    if at > #text then error("not JSON") end
    local key = #found + 1
    if close == "}" then
      key, at = readText(text, at)
      at = after(text, at)
    end
    found[key], at = read(text, at)
    at = after(text, at)
  end
  return found, at + 1
end
function read(text, at)
  at = after(text, at)
  local first = text:sub(at, at)
  if first == "{" then return readMembers(text, at, "}") end
  if first == "[" then return readMembers(text, at, "]") end
  if first == '"' then return readText(text, at) end
  local from, to = text:find("^[%w%.+-]+", at)
  if not from then error("not JSON") end
  local word = text:sub(from, to)
  if word == "true" or word == "false" then return word == "true", to + 1 end
  return tonumber(word), to + 1
end

-- For the game.

-- options: game, hz, columns ({ "tick", "x", "y" }), and where they matter build, unit, yUp, host, port, token.
local function new(options)
  local link = { options = options, numbers = {}, names = {}, handlers = {}, abilities = {}, rows = {}, hands = {}, outbox = {} }
  link.first, link.last, link.next = 1, 0, 1 -- rows that are kept, and the next to be sent
  link.firstHand, link.lastHand, link.nextHand = 1, 0, 1
  link.state, link.due, link.pause, link.tick = "closed", 0, 0.5, 0
  return setmetatable(link, Link)
end

-- Registers a number: get() returns it, set(value) sets it, and returns why not. `more` may hold path, min and max.
function Link:watch(name, get, set, more)
  self.names[#self.names + 1] = name
  self.numbers[name] = { get = get, set = set, more = more or {} }
  return self
end

-- Registers what the game can do: restart, place, pause (also run and step), tape. The handler gets the message, and returns why not.
function Link:on(ability, handler)
  self.abilities[#self.abilities + 1] = ability
  self.handlers[ability] = handler
  return self
end

-- Records the row of a tick, with the changes of the hands in it: { { press = "right" } }. Call once a tick, with rising ticks.
function Link:row(values, hands)
  self.last = self.last + 1
  self.rows[self.last] = values
  self.tick = values[1] + 1
  for _, event in ipairs(hands or {}) do
    local kept = { at = values[1] }
    for kind, value in pairs(event) do kept[kind] = value end
    self.lastHand = self.lastHand + 1
    self.hands[self.lastHand] = kept
  end
  if self.last - self.first >= KEPT then
    self.rows[self.first] = nil
    self.first = self.first + 1
    self.next = math.max(self.next, self.first)
    local tick = self.rows[self.first][1]
    while self.firstHand <= self.lastHand and self.hands[self.firstHand].at < tick do
      self.hands[self.firstHand] = nil
      self.firstHand = self.firstHand + 1
    end
    self.nextHand = math.max(self.nextHand, self.firstHand)
  end
  self:update()
end

-- Sends and listens a little; row() does it, a game that is paused calls it itself. Returns true if more is to be sent.
function Link:update()
  local now = socket.gettime()
  if now < (self.after or 0) then return true end
  self.after = now + EVERY
  local isWell, more = pcall(self.step, self, now)
  if not isWell then self:drop() end
  return isWell and more
end

-- Sends what is left, for so many seconds at most, and says goodbye.
function Link:close(seconds)
  local over = socket.gettime() + (seconds or 1)
  while self.state == "linked" and socket.gettime() < over and (self:update() or self.output ~= "") do socket.sleep(0.001) end
  if self.state == "linked" then
    self:say(1, '{"type":"bye"}')
    pcall(self.flush, self)
  end
  self:drop()
end

-- The link.

function Link:drop()
  if self.socket then self.socket:close() end
  self.socket, self.state = nil, "closed"
  self.due = socket.gettime() + self.pause
  self.pause = math.min(5, self.pause * 1.5)
end

function Link:step(now)
  if self.state == "closed" then
    if now < self.due then return false end
    self.socket = assert(socket.tcp())
    self.socket:settimeout(0)
    self.socket:connect(self.options.host or "127.0.0.1", self.options.port or 4380)
    self.input, self.output, self.state, self.due = "", "", "connecting", now + PATIENCE
  elseif self.state == "connecting" then
    local _, writable = socket.select(nil, { self.socket }, 0)
    if #writable > 0 then
      self.socket:setoption("tcp-nodelay", true)
      self.output, self.state = self:head(), "shaking"
    elseif now > self.due then error("nobody is there") end
  else
    if self.state ~= "linked" and now > self.due then error("no answer") end
    self:flush()
    self:receive()
    if self.state == "linked" then return self:sendRows() end
  end
  return false
end

function Link:head()
  local options, host = self.options, (self.options.host or "127.0.0.1") .. ":" .. (self.options.port or 4380)
  return "GET /api/v1/link HTTP/1.1\r\nHost: " .. host .. "\r\nUpgrade: websocket\r\nConnection: Upgrade\r\nSec-WebSocket-Key: enlnb3BvZC1saW5rLXYxIQ==\r\n"
    .. "Sec-WebSocket-Version: 13\r\nSec-WebSocket-Protocol: zygopod.link.v1\r\n"
    .. (options.token and "Authorization: Bearer " .. options.token .. "\r\n" or "") .. "\r\n"
end

-- Hands as much to the network as it takes.
function Link:flush()
  if self.output == "" then return end
  local sent, why, part = self.socket:send(self.output)
  if why == "closed" then error(why) end
  self.output = self.output:sub((sent or part or 0) + 1)
end

function Link:receive()
  local data, why, part = self.socket:receive(16384)
  if why == "closed" then error(why) end
  self.input = self.input .. (data or part or "")
  if self.state == "shaking" then
    local _, over = self.input:find("\r\n\r\n", 1, true)
    if not over then return end
    if not self.input:find("^HTTP/1.1 101") then error("no link here") end
    self.input, self.state = self.input:sub(over + 1), "greeting"
    self:say(1, self:hello())
  end
  while self:frame() do end
end

-- A frame (RFC 6455). A mask of zeros leaves the text as it is: Lua before 5.3 has no exclusive or.
function Link:say(opcode, text)
  local size = #text
  local length = size < 126 and string.char(128 + size) or string.char(254, math.floor(size / 256), size % 256)
  self.output = self.output .. string.char(128 + opcode) .. length .. "\0\0\0\0" .. text
end

function Link:frame()
  local first, second, b, c = self.input:byte(1, 4)
  if not second then return false end
  local size, begin = second % 128, 3
  if size > 126 then error("a frame that is too large") end
  if size == 126 then
    if not c then return false end
    size, begin = b * 256 + c, 5
  end
  if #self.input < begin + size - 1 then return false end
  local text = self.input:sub(begin, begin + size - 1)
  self.input = self.input:sub(begin + size)
  local opcode = first % 16
  if opcode == 8 then error("closed") end
  if opcode == 9 then self:say(10, text) end
  if opcode == 1 then self:hear((read(text, 1))) end
  return true
end

function Link:hello()
  local o, can, parameters = self.options, { isList = true }, { isList = true }
  if #self.names > 0 then can[1] = "set" end
  for _, ability in ipairs(self.abilities) do can[#can + 1] = ability end
  for i, name in ipairs(self.names) do
    local one = self.numbers[name]
    parameters[i] = { name = name, value = one.get(), path = one.more.path, min = one.more.min, max = one.more.max }
  end
  return json({ type = "hello", protocol = 1, session = self.session, game = o.game, build = o.build or "", hz = o.hz, unit = o.unit or "px",
    yUp = o.yUp or false, columns = o.columns, parameters = parameters, can = can })
end

function Link:hear(message)
  if message.type == "welcome" then
    self.session, self.state, self.pause = message.session, "linked", 0.5
    self.next, self.nextHand = self.last + 1, self.lastHand + 1
    while self.next > self.first and self.rows[self.next - 1][1] >= message.from do self.next = self.next - 1 end
    while self.nextHand > self.firstHand and self.hands[self.nextHand - 1].at >= message.from do self.nextHand = self.nextHand - 1 end
  elseif message.type ~= "problem" then
    local why, name
    if message.type == "set" then
      for one, value in pairs(message.values) do
        local known = self.numbers[one]
        if not why then name, why = one, (not known and "no such number") or (known and known.set(value)) or nil end
      end
    else
      local handler = self.handlers[(message.type == "run" or message.type == "step") and "pause" or message.type]
      why = (not handler and "the game can't do that") or (handler and handler(message)) or nil
    end
    self:say(1, json(why and { type = "refused", id = message.id, name = name, why = why } or { type = "done", id = message.id, tick = self.tick }))
  end
end

-- Sends some of the rows that are due, with the events in their ticks; returns true if there are more.
function Link:sendRows()
  if self.next > self.last or #self.output > 65536 then return self.next <= self.last end
  local rows, hands = {}, { isList = true }
  while self.next <= self.last and #rows < MOST do
    rows[#rows + 1] = list(self.rows[self.next])
    self.next = self.next + 1
  end
  local last = self.rows[self.next - 1][1]
  while self.nextHand <= self.lastHand and self.hands[self.nextHand].at <= last do
    hands[#hands + 1] = self.hands[self.nextHand]
    self.nextHand = self.nextHand + 1
  end
  self:say(1, '{"type":"rows","rows":[' .. table.concat(rows, ",") .. '],"hands":' .. list(hands) .. "}")
  self:flush()
  return self.next <= self.last
end

return { new = new }
