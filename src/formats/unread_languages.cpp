#include "formats/unread_languages.h"

#include <string>
#include <unordered_map>

namespace yc {

namespace {

using Table = std::unordered_map<std::string_view, std::string_view>;

// Left out: languages whose files do not name each other and are named by scripts that are read (assembler,
// Swift, Vala, shaders), and those whose ending says nothing.
const Table& sources() {
  static const Table table = {
      {".rs", "Rust"},
      {".go", "Go"},
      {".java", "Java"},
      {".kt", "Kotlin"},
      {".kts", "Kotlin"},
      {".scala", "Scala"},
      {".groovy", "Groovy"},
      {".rb", "Ruby"},
      {".php", "PHP"},
      {".pl", "Perl"},
      {".pm", "Perl"},
      {".lua", "Lua"},
      {".hs", "Haskell"},
      {".lhs", "Haskell"},
      {".ml", "OCaml"},
      {".mli", "OCaml"},
      {".ex", "Elixir"},
      {".exs", "Elixir"},
      {".erl", "Erlang"},
      {".hrl", "Erlang"},
      {".clj", "Clojure"},
      {".cljs", "Clojure"},
      {".cljc", "Clojure"},
      {".dart", "Dart"},
      {".jl", "Julia"},
      {".zig", "Zig"},
      {".nim", "Nim"},
      {".d", "D"},
      {".di", "D"},
      {".f", "Fortran"},
      {".for", "Fortran"},
      {".f90", "Fortran"},
      {".f95", "Fortran"},
      {".f03", "Fortran"},
      {".f08", "Fortran"},
      {".adb", "Ada"},
      {".ads", "Ada"},
      {".pas", "Pascal"},
      {".pp", "Pascal"},
      {".lpr", "Pascal"},
      {".dpr", "Pascal"},
      {".fs", "F#"},
      {".fsi", "F#"},
      {".cr", "Crystal"},
      {".proto", "protocol buffers"},
      {".thrift", "Thrift"},
      {".coffee", "CoffeeScript"},
      {".elm", "Elm"},
      {".purs", "PureScript"},
      {".tcl", "Tcl"},
      {".cob", "COBOL"},
      {".cbl", "COBOL"},
      {".cpy", "COBOL"},
      {".rkt", "Racket"},
      {".scm", "Scheme"},
      {".lisp", "Lisp"},
      {".el", "Emacs Lisp"},
      {".sv", "SystemVerilog"},
      {".svh", "SystemVerilog"},
      {".v", "Verilog"},
      {".vhd", "VHDL"},
      {".vhdl", "VHDL"},
      {".tex", "TeX"},
      {".sty", "TeX"},
      {".typ", "Typst"},
      {".tf", "Terraform"},
      {".nix", "Nix"},
      {".sol", "Solidity"},
      {".pyx", "Cython"},
      {".pxd", "Cython"},
      {".pxi", "Cython"},
      {".svelte", "Svelte"},
  };
  return table;
}

const Table& build_names() {
  static const Table table = {
      {"BUILD", "Bazel"},
      {"BUILD.bazel", "Bazel"},
      {"WORKSPACE", "Bazel"},
      {"WORKSPACE.bazel", "Bazel"},
      {"MODULE.bazel", "Bazel"},
      {"pom.xml", "Maven"},
      {"build.xml", "Ant"},
      {"SConstruct", "SCons"},
      {"SConscript", "SCons"},
      {"wscript", "Waf"},
      {"Rakefile", "Rake"},
      {"Gemfile", "Bundler"},
      {"Cargo.toml", "Cargo"},
      {"go.mod", "Go"},
      {"go.work", "Go"},
      {"build.zig", "Zig"},
      {"Jamfile", "Jam"},
      {"Jamroot", "Jam"},
      {"Tupfile", "Tup"},
      {"dune", "Dune"},
      {"dune-project", "Dune"},
      {"mix.exs", "Mix"},
      {"composer.json", "Composer"},
      {"Makefile.PL", "Perl"},
      {"Build.PL", "Perl"},
      {"premake5.lua", "Premake"},
      {"xmake.lua", "Xmake"},
      {"pubspec.yaml", "Dart"},
      {"justfile", "just"},
      {"Justfile", "just"},
      {"Earthfile", "Earthly"},
      {"Podfile", "CocoaPods"},
      {"Fastfile", "fastlane"},
      {"shadow-cljs.edn", "Clojure"},
      {"deps.edn", "Clojure"},
      {"project.clj", "Clojure"},
  };
  return table;
}

const Table& build_endings() {
  static const Table table = {
      {".bzl", "Bazel"},         {".gradle", "Gradle"},    {".pro", "qmake"},    {".pri", "qmake"},
      {".gyp", "GYP"},           {".gypi", "GYP"},         {".gn", "GN"},        {".gni", "GN"},
      {".ninja", "Ninja"},       {".scons", "SCons"},      {".cabal", "Cabal"},  {".gemspec", "RubyGems"},
      {".podspec", "CocoaPods"}, {".gpr", "GNAT"},         {".lpi", "Lazarus"},  {".dproj", "Delphi"},
      {".dsp", "Visual C++ 6"},  {".dsw", "Visual C++ 6"}, {".vc", "nmake"},     {".msc", "nmake"},
      {".bcc", "Borland make"},  {".opam", "opam"},        {".nuspec", "NuGet"}, {".tcl", "Tcl"},
  };
  return table;
}

std::optional<std::string_view> in(const Table& table, std::string_view key) {
  auto at = table.find(key);
  return at == table.end() ? std::nullopt : std::optional(at->second);
}

}  // namespace

std::optional<std::string_view> unread_source_language(const RelPath& path) {
  return in(sources(), path.extension());
}

std::optional<std::string_view> unread_build_tool(const RelPath& path) {
  if (auto tool = in(build_names(), path.name())) return tool;
  // "build.gradle.kts": what a tool reads is its script, whatever language that is in.
  if (path.name().ends_with(".gradle.kts")) return "Gradle";
  return in(build_endings(), path.extension());
}

}  // namespace yc
