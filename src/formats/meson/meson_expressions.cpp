// Expressions, keeping the trace.
#include <algorithm>

#include "formats/meson/meson_evaluation.h"

namespace yc::meson {

namespace {

constexpr int kDeepestExpression = 300;
constexpr std::size_t kValueLimit = 4'000'000;  // bytes of one text
constexpr std::size_t kListLimit = 100'000;

}  // namespace

// The result remembers the expression it came through, so that another can be written in its place.
Value Evaluation::evaluate(const Node& node) {
  if (node.kind == Node::Kind::group) return evaluate(*node.children[0]);
  auto give_up = [&](const char* why) {
    out_.incomplete(Unread::cut_short, "runaway-script", out_.files().path(script().file), node.span, why);
    return Value();
  };
  if (!out_.spend(100)) return give_up("was given up: it runs too long");
  if (++depth_ > kDeepestExpression) {
    --depth_;
    return give_up("was given up: it nests too deeply");
  }
  Value out = evaluate_plain(node);
  --depth_;
  // What a value costs is its size, whoever copies it.
  std::size_t size = out.kind == Value::Kind::text   ? out.text.size() + 16 * out.text.pieces().size()
                     : out.kind == Value::Kind::list ? 64 * out.items->size()
                                                     : 0;
  if (!out_.spend(size)) return give_up("was given up: it runs too long");
  bool too_large = (out.kind == Value::Kind::text && out.text.size() > kValueLimit) ||
                   (out.kind == Value::Kind::list && out.items->size() > kListLimit);
  if (too_large) return give_up("a value was given up: it grows too large");
  bool plain = node.kind == Node::Kind::string && !node.formatted;
  bool collects = node.kind == Node::Kind::array || node.kind == Node::Kind::dictionary;
  return plain || collects ? out : out.through(passage(node.span));
}

Value Evaluation::evaluate_plain(const Node& node) {
  switch (node.kind) {
    case Node::Kind::string:
      return string(node);
    case Node::Kind::number:
      return Value::of(std::strtol(node.text.c_str(), nullptr, 0));
    case Node::Kind::boolean:
      return Value::of(node.text == "true");
    case Node::Kind::identifier:
      return identifier(node);
    case Node::Kind::array: {
      Values items;
      for (const Argument& argument : node.arguments) items.push_back(evaluate(*argument.value));
      return Value::of(std::move(items));
    }
    case Node::Kind::dictionary: {
      Entries entries;
      for (const Argument& argument : node.arguments) {
        TracedText key = argument.key ? evaluate(*argument.key).as_text() : TracedText::hole();
        entries.emplace_back(std::move(key), evaluate(*argument.value));
      }
      return Value::of(std::move(entries));
    }
    case Node::Kind::call:
      return call(node);
    case Node::Kind::method:
      return method(node);
    case Node::Kind::index:
      return index(node);
    case Node::Kind::binary:
      return binary(node);
    case Node::Kind::unary: {
      Value inner = evaluate(*node.children[0]);
      if (node.text == "not")
        return inner.kind == Value::Kind::boolean ? Value::of(!inner.flag) : Value::object("boolean");
      if (node.text == "-" && inner.kind == Value::Kind::number) return Value::of(-inner.number);
      return {};
    }
    case Node::Kind::ternary:
      return ternary(node);
    case Node::Kind::group:
      break;
  }
  return {};
}

Value Evaluation::string(const Node& node) {
  std::string_view all = std::string_view(*script().bytes).substr(node.content.begin, node.content.size());
  WritingStyle style = node.multiline ? kTriple : kSingle;
  TracedText out;
  std::size_t from = 0;
  auto literal = [&](std::size_t end) {
    if (from < end) {
      Span span{node.content.begin + static_cast<std::uint32_t>(from),
                node.content.begin + static_cast<std::uint32_t>(end)};
      out.append(TracedText::literal(std::string(all.substr(from, end - from)), script().file, span, style));
    }
  };
  for (std::size_t i = 0; i < all.size();) {
    if (all[i] == '\\' && !node.multiline && i + 1 < all.size()) {
      static constexpr std::string_view kNamed = "\\'abfnrtv", kMeant = "\\'\a\b\f\n\r\t\v";
      std::size_t known = kNamed.find(all[i + 1]);
      if (known != std::string_view::npos) {
        literal(i);
        out.append(TracedText::plain(std::string(1, kMeant[known])));
        i += 2;
        from = i;
        continue;
      }
      if (std::string_view("01234567xuUN").find(all[i + 1]) != std::string_view::npos) {
        // A character by its number: no path is spelled so.
        literal(i);
        out.append(TracedText::hole());
        i += 2;
        from = i;
        continue;
      }
      i += 2;
      continue;
    }
    if (all[i] == '@' && node.formatted) {
      std::size_t end = all.find('@', i + 1);
      std::string name(all.substr(i + 1, end == std::string_view::npos ? 0 : end - i - 1));
      if (auto known = variable(name)) {
        literal(i);
        out.append(known->as_text());
        i = end + 1;
        from = i;
        continue;
      }
    }
    ++i;
  }
  literal(all.size());
  return Value::of(std::move(out));
}

Value Evaluation::identifier(const Node& node) {
  if (auto known = variable(node.text)) return *known;
  if (node.text == "meson") return Value::object("meson");
  return {};
}

Value Evaluation::binary(const Node& node) {
  if (node.text == "and" || node.text == "or") return logic(node);
  Value left = evaluate(*node.children[0]), right = evaluate(*node.children[1]);
  const std::string& op = node.text;
  if (op == "==" || op == "!=") {
    auto same = equal(left, right);
    return same ? Value::of(*same == (op == "==")) : Value::object("boolean");
  }
  if (op == "in" || op == "not in") {
    bool unknown = false, found = false;
    if (right.kind == Value::Kind::dictionary) {
      found = right.entry(left.as_text().text()) != nullptr;
    } else if (right.kind == Value::Kind::list) {
      for (const Value& item : *right.items) {
        auto same = equal(left, item);
        unknown = unknown || !same;
        found = found || (same && *same);
      }
    } else {
      unknown = true;
    }
    if (left.kind == Value::Kind::unknown || (unknown && !found)) return {};
    return Value::of(found == (op == "in"));
  }
  if (op == "<" || op == ">" || op == "<=" || op == ">=") {
    if (left.kind != Value::Kind::number || right.kind != Value::Kind::number) return {};
    long a = left.number, b = right.number;
    return Value::of(op == "<" ? a < b : op == ">" ? a > b : op == "<=" ? a <= b : a >= b);
  }
  if (op == "/") {
    bool texts = left.kind != Value::Kind::number && right.kind != Value::Kind::number;
    if (!texts) return {};
    TracedText head = left.as_text(), tail = right.as_text();
    std::string text = head.text(), more = tail.text();
    if (text.empty() || (!more.empty() && more.front() == '/')) return Value::of(std::move(tail));
    if (text.back() != '/') head.append(TracedText::plain("/"));
    head.append(tail);
    return Value::of(std::move(head));
  }
  if (op == "+") {
    if (left.kind == Value::Kind::list || right.kind == Value::Kind::list) {
      if (left.kind == Value::Kind::text) return {};  // an error to Meson
      Values items = left.kind == Value::Kind::list ? *left.items : Values{left};
      Values added = right.kind == Value::Kind::list ? *right.items : Values{right};
      std::move(added.begin(), added.end(), std::back_inserter(items));
      return Value::of(std::move(items));
    }
    if (left.kind == Value::Kind::dictionary && right.kind == Value::Kind::dictionary) {
      Entries entries = *right.entries;  // the later one counts
      entries.insert(entries.end(), left.entries->begin(), left.entries->end());
      return Value::of(std::move(entries));
    }
    if (left.kind == Value::Kind::number && right.kind == Value::Kind::number) {
      long sum = 0;
      return __builtin_add_overflow(left.number, right.number, &sum) ? Value() : Value::of(sum);
    }
    TracedText text = left.as_text();
    text.append(right.as_text());
    return Value::of(std::move(text));
  }
  return {};
}

Value Evaluation::logic(const Node& node) {
  Value left = evaluate(*node.children[0]), right = evaluate(*node.children[1]);
  bool decides = node.text == "or";  // the side that settles it alone
  for (const Value* side : {&left, &right}) {
    if (side->kind == Value::Kind::boolean && side->flag == decides) return Value::of(decides);
  }
  bool both = left.kind == Value::Kind::boolean && right.kind == Value::Kind::boolean;
  return both ? Value::of(!decides) : Value::object("boolean");
}

Value Evaluation::index(const Node& node) {
  Value whole = evaluate(*node.children[0]), at = evaluate(*node.children[1]);
  if (whole.kind == Value::Kind::made) return whole;
  if (whole.kind == Value::Kind::dictionary) {
    const Value* found = whole.entry(at.as_text().text());
    return found ? *found : Value();
  }
  if (whole.kind != Value::Kind::list) return {};
  if (at.kind != Value::Kind::number) return {};
  long size = static_cast<long>(whole.items->size());
  long place = at.number < 0 ? size + at.number : at.number;
  if (place < 0 || place >= size) return {};
  return (*whole.items)[static_cast<std::size_t>(place)];
}

Value Evaluation::ternary(const Node& node) {
  if (in_ternary_) return {};  // Meson takes none within another
  in_ternary_ = true;
  Value out;
  if (auto known = condition(*node.children[0])) {
    out = evaluate(*node.children[*known ? 1 : 2]);
  } else {
    out = evaluate(
        *node.children[1 + worlds_->pick(choices_.met({script().file, node.span.begin}, rounds_, 2))]);
  }
  in_ternary_ = false;
  return out;
}

void Evaluation::fill(Call& call) {
  for (const Argument& argument : call.node.arguments) {
    Value value = evaluate(*argument.value);
    if (argument.keyword.empty()) {
      call.positional.push_back(std::move(value));
    } else if (argument.keyword == "kwargs" && value.kind == Value::Kind::dictionary) {
      for (const auto& [name, given] : *value.entries) call.keywords.emplace(name.text(), given);
    } else {
      call.keywords[argument.keyword] = std::move(value);
    }
  }
  here_ = {script().file, call.node.span.begin};
}

Value Evaluation::call(const Node& node) {
  Call call{node, nullptr, {}, {}};
  fill(call);
  return function(call, node.text);
}

Value Evaluation::method(const Node& node) {
  Value object = evaluate(*node.children[0]);
  Call call{node, &object, {}, {}};
  fill(call);
  switch (object.kind) {
    case Value::Kind::text:
      return method_of_text(call, node.text);
    case Value::Kind::list:
      return method_of_list(call, node.text);
    case Value::Kind::dictionary:
      return method_of_dictionary(call, node.text);
    case Value::Kind::project:
      return node.text == "get_variable" ? do_get_variable(call) : Value();
    case Value::Kind::number:
      return node.text == "to_string" ? Value::of(object.as_text()) : Value();
    case Value::Kind::made:
      return node.text == "full_path" ? Value() : object;
    default:
      return object.is_object("meson") ? method_of_meson(call, node.text) : method_of_object(call, node.text);
  }
}

Values Call::flat(std::size_t from) const {
  Values out;
  for (std::size_t i = from; i < positional.size(); ++i) {
    Values inner = positional[i].flat();
    std::move(inner.begin(), inner.end(), std::back_inserter(out));
  }
  return out;
}

const Value* Call::keyword(const std::string& name) const {
  auto at = keywords.find(name);
  return at == keywords.end() ? nullptr : &at->second;
}

TracedText Call::text(std::size_t index) const {
  return index < positional.size() ? positional[index].as_text() : TracedText();
}

}  // namespace yc::meson
