// Finds what a source of JavaScript or TypeScript names: the specifiers of its imports, and other texts that
// could be paths. Languages: ECMA-262, TypeScript 5, and JSX in all files but plain TypeScript ones. One
// pass, no syntax tree.
#pragma once

#include <functional>
#include <optional>
#include <string>
#include <string_view>
#include <vector>

#include "base/path.h"
#include "base/span.h"
#include "formats/glued_paths/glue_scan.h"
#include "formats/modules/own_paths.h"

namespace yc::modules {

enum class Dialect : std::uint8_t {
  script,     // JavaScript, with or without JSX
  typed,      // TypeScript without JSX
  typed_jsx,  // TypeScript with JSX
};

// By the ending of a file's name; nothing if it says that the file is none of these languages.
std::optional<Dialect> dialect_of(const RelPath& path);

struct Specifier {
  enum class Kind : std::uint8_t {
    import_from,   // import … from "x", export … from "x", import "x"
    dynamic,       // import("x"), in an expression, a type or a doc comment
    require,       // require("x"), require.resolve("x") and import x = require("x")
    mock,          // a test runner's call that takes a module: jest.mock("x")
    augmentation,  // declare module "x"
    url,           // new URL("x", import.meta.url)
    worker,        // new Worker("x"), importScripts("x")
    glob,          // import.meta.glob("./x/*.ts"), also each element of a list of them
    folder,        // require.context("./x", …)
    reference,     // /// <reference path="x" />
    types,         // /// <reference types="x" />
  };
  Kind kind = Kind::import_from;
  std::string text;             // as it stands between the quotes
  Span span;                    // the same, in the file
  std::uint32_t statement = 0;  // where the construct begins
};

// A specifier that is put together when the program runs: `./charts/${name}.js`, "./charts/" + name.
struct Computed {
  Specifier::Kind kind = Specifier::Kind::dynamic;
  Span head;  // the known text that it begins with
  Span tail;  // and ends with, for a template; else empty
  std::uint32_t statement = 0;
};

// Parts that are joined to a path from the file's own folder: path.join(__dirname, "..", "charts"),
// fileURLToPath(new URL("./charts", import.meta.url)) has one part.
struct Joined {
  std::vector<Span> parts;
  std::string key;  // of the entry whose value it is, as an alias has one: '@': path.resolve(…)
  std::uint32_t statement = 0;
};

// Any other string that could be a path.
struct PathText {
  std::string text;
  Span span;
  std::string key;  // of the entry whose value it is, or empty
};

struct ModuleFacts {
  std::vector<Specifier> specifiers;
  std::vector<Computed> computed;
  std::vector<Joined> joined;
  std::vector<PathText> texts;
  std::vector<Span> heads;  // of other templates: what stands before the first hole, if it has a slash
  // Both filled by scan_glued_module().
  glued_paths::GlueFacts glue;
  std::vector<OwnPath> own_paths;
};

// Bytes that hold a NUL have no facts. `on_string`, where given, is told of every string, template without
// holes and quoted attribute, by the span between its quotes.
ModuleFacts scan_module(std::string_view bytes, Dialect dialect,
                        const std::function<void(Span)>* on_string = nullptr);

// The same, with the texts that are glued to constants.
ModuleFacts scan_glued_module(std::string_view bytes, Dialect dialect);

}  // namespace yc::modules
