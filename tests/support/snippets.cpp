#include "support/snippets.h"

namespace yc::test {

namespace {

const std::string kMakefile =
    "S := $(wildcard src/*.c)\nifdef DEBUG\nCFLAGS += -Iinc -include inc/x.h\nelse ifeq "
    "($(V),1)\nendif\ndefine rule\n$(1).o: $(1).c\n\t$$(CC) -c $$<\nendef\n"
    "$(foreach n,a b,$(eval $(call rule,$(n))))\nprog: $(S:.c=.o) $(addprefix lib/,c.o)\n\t@cd src && cat "
    "\"a.c\" > ../out/x; $(CC) -o $@ $^\nvpath %.c lib\n-include dep.mk\n";
const std::string kScript =
    "cmake_minimum_required(VERSION 3.16)\nproject(p C)\nset(S src/a.c \"src/b.c\")\nif(X AND NOT Y)\n  "
    "list(APPEND S lib/${Z}.c)\nelse()\n  file(GLOB G ${CMAKE_CURRENT_SOURCE_DIR}/lib/*.c)\nendif()\n"
    "function(f n)\n  cmake_parse_arguments(A \"Q\" \"N\" \"S\" ${ARGN})\n  add_library(${n} "
    "${A_S})\nendfunction()\nf(l S ${S})\nforeach(t IN LISTS S)\nendforeach()\n"
    "target_include_directories(l PUBLIC $<BUILD_INTERFACE:${PROJECT_SOURCE_DIR}/inc> "
    "[[x]])\nadd_custom_command(OUTPUT o COMMAND sh -c \"cat src/a.c\" DEPENDS src/a.c)\n";
const std::string kSource =
    "#include \"x.h\"\n#  include <x.h> /* c */\n#if __has_include(\"inc/x.h\")\n#define H "
    "\"inc/x.h\"\n#include H\n#endif\nconst char* s = R\"d(#include \"no.h\")d\" \"data/x.txt\";\n";
const std::string kPresets =
    "{ \"version\": 3, \"include\": [\"more.json\"], \"configurePresets\": [ { \"toolchainFile\": "
    "\"${sourceDir}/inc/x.h\", \"x\": \"\\u0041\" } ] }\n";

}  // namespace

const std::vector<Snippet>& snippets() {
  static const std::vector<Snippet> all = {
      {"Makefile", kMakefile},
      {"CMakeLists.txt", kScript},
      {"CMakePresets.json", kPresets},
      {"src/a.c", kSource},
      {"meson.build",
       "project('p', 'c')\ns = ['src/a.c']\nforeach n : ['a', 'b']\n  s += "
       "'src/@0@.c'.format(n)\nendforeach\n"
       "if get_option('x')\n  s += files('lib' / 'c.c')\nendif\nexecutable('p', s, include_directories: "
       "'inc')\n"},
      {"sub/Makefile.am",
       "bin_PROGRAMS = p\np_SOURCES = ../src/a.c %D%/x.c\nif X\nEXTRA_DIST = ../inc/x.h\nendif\n"},
      {"sub/configure.ac",
       "AC_INIT([p],[1])\nAM_INIT_AUTOMAKE([foreign])\nAC_CONFIG_SRCDIR([../src/"
       "a.c])\nAC_CONFIG_FILES([Makefile])\n"},
      {"run.sh",
       "#!/bin/sh\ncd \"$(dirname \"$0\")\"\nfor f in src/*.c; do cat $f; done\ncat <<END > "
       "out/y\nsrc/a.c\nEND\n. ./inc/x.h\n"},
      {"run.bat",
       "@echo off\r\ncd /d %~dp0\r\nif exist src\\a.c (type src\\a.c) else for %%f in (src\\*.c) do type "
       "%%f\r\n"},
      {"part.s", ".include \"inc/x.h\"\n.incbin \"data/x.txt\"\n%include 'x.h'\n"},
      {"part.ld", "INCLUDE src/a.c\nINPUT(\"data/x.txt\", lib/c.c)\nSEARCH_DIR(inc)\n"},
      {"Doxyfile", "INPUT = src \\\n  inc\nEXCLUDE += \"src/b.c\"\n"},
      {".clangd", "CompileFlags:\n  Add: [-Iinc, \"-include\", \"inc/x.h\"]\n"},
      {"compile_commands.json",
       "[{\"directory\": \"/t\", \"command\": \"cc -Iinc -DX=\\\"y\\\" -c src/a.c\", \"file\": "
       "\"/t/src/a.c\"},\n"
       " {\"directory\": \"/t\", \"arguments\": [\"cc\", \"-I/t/inc\", \"src/b.c\"], \"file\": "
       "\"src/b.c\"}]\n"},
      {"p.dsp",
       "# Microsoft Developer Studio Project File - Name=\"p\"\r\n# ADD CPP /I \"inc\" /I..\\x /D \"X\"\r\n# "
       "ADD LINK32 "
       "lib\\c.lib\r\nSOURCE=.\\src\\a.c\r\nSOURCE=\"$(InputPath)\"\r\nCmds=$(X)\\src\\a.c data\\x.txt\r\n"},
      {"p.dsw",
       "Microsoft Developer Studio Workspace File\r\nProject: \"p\"=.\\p.dsp - Package Owner=<4>\r\n"},
      {"p.vc",
       "S=.\\src\r\nO=.obj\r\n!IFDEF X\r\nS=src\r\n!ENDIF\r\n!INCLUDE \"x.inc\"\r\nOBJS=a$(O) \\\r\n "
       "b.obj\r\n"
       "all: $(OBJS)\r\n\tcl /Iinc /Fo$@ $**\r\na.obj: src\\a.c\r\n{$(S)\\}.c{out\\}.obj::\r\n\tcl $*.c $< "
       "<<x\r\n<<\r\n"},
      {"p.pro",
       "SOURCES += src/a.c \\\n  # x\n  \"lib/c.c\" $$files(src/*.c)\nwin32:x { INCLUDEPATH = $$PWD/inc "
       "$${D}/x }\n"
       "include(p.pri)\nSUBDIRS = lib $$S\nx.depends = lib\nLIBS += -L lib -lx\nmessage($$(HOME) $$[Q])\n"},
      {"p.gresource.xml",
       "<gresources><gresource prefix=\"/p\"><file alias=\"x\">data/x.txt</file></gresource></gresources>\n"},
      {"show.py",
       "import os, lib.c as c\nfrom . import (a,  # x\n  b as d)\nHERE = os.path.dirname(__file__)\nX = "
       "os.path.join(HERE, 'data', "
       "f\"{c.n!r:>{w}}x.txt\")\ndef f(a, *b: c.d, **e):\n    return open('data/x.txt' % (a, [b, {c: "
       "\"src/a.c\"}])), "
       "r'src/b.c'\nif __name__ == '__main__': f(lambda x: (HERE / \"inc/x.h\"))\n"},
      {"setup.py",
       "setup(package_dir={'': 'src'}, packages=['lib', 'a.b'], entry_points={'x': ['y = lib.c:z']})\n"},
      {"pyproject.toml",
       "[project]\nreadme = \"data/x.txt\"\n[tool.setuptools]\npackages = [\"lib\", 'src']\npackage-data = { "
       "lib = [\"*.c\"] }\n"},
      {"setup.cfg", "[options]\npackage_dir =\n    =src\n[mypy-lib.c]\nx = data/x.txt, inc\n"},
      {"a.yaml", "a: &x data/x.txt\nb: ['src/a.c', \"src/b.c\"]\nc: |\n  inc/x.h\n  lib/c.c\nd: *x\n"},
      {"a.csv", "n,f\n1,\"data/x.txt\"\n2,src/a.c\n"},
      {"a.ini", "[s]\nf = data/x.txt ; n\nl =\n  src/a.c\n"},
      {"a.xml", "<a f='data/x.txt'><b>src/a.c</b></a>\n"},
      {"a.mtl", "map_Kd -s 1 data/x.txt\n"},
      {"a.md", "[a](data/x.txt#b \"c\") `x`\n```\n[x]: src/a.c\n```\n[x]: <src/a.c>\n"},
      {"a.rst", ".. image:: data/x.txt\n.. toctree::\n   :x: 1\n\n   src/a\n\n`b <src/a.c>`_ :doc:`src/b`\n"},
      {"a.rs", "#[path = \"lib/c.c\"] mod m; fn f<'a>() { include_str!(\"data/x.txt\"); r#\"src/\"#; }\n"},
      {"a.go",
       "package a\nimport (\n\t\"fmt\"\n\tb \"example.com/p/src\"\n)\n//go:embed data/x.txt inc/*.h\nvar x = "
       "`//go:embed no`\n"
       "//go:generate sh -c \"cat src/a.c\"\n//go:linkname l example.com/p/lib.l\n"},
      {"Cargo.toml",
       "[workspace]\nmembers = [\"src\", \"lib/*\"]\n[package]\nname = \"p\"\nreadme = 'data/x.txt'\ninclude "
       "= "
       "[\"src/*.c\"]\n[dependencies]\nq = { path = \"lib\" }\n[[bin]]\nname = \"b\"\npath = \"src/a.c\"\n"},
      {"package-lock.json",
       "{\"packages\": {\"\": {}, \"src\": {\"dependencies\": {\"l\": \"file:../lib\"}},\n"
       "\"node_modules/l\": {\"resolved\": \"lib\", \"link\": true}}}\n"},
      {"pnpm-workspace.yaml", "packages:\n  - src\n  - 'lib/**'\n  - '!data'\n"},
      {"pnpm-lock.yaml",
       "importers:\n\n  src:\n    dependencies:\n      l:\n        specifier: link:../lib\n        version: "
       "link:../lib\n\npackages:\n\n  file:lib:\n    resolution: {directory: lib, type: directory}\n"},
      {"yarn.lock", "\"l@workspace:lib\":\n  resolution: \"l@workspace:lib\"\n"},
      {".cargo/config.toml", "paths = [\"lib\"]\n[build]\nrustc-wrapper = \"src/a.c\"\n"},
      {"go.mod", "module example.com/p\nreplace (\n\texample.com/q v1.0.0 => ./lib\n)\nuse ./src // x\n"},
      {"a.cs", "var a = Path.Combine(\"data\", \"x.txt\"); var b = $\"{c}src/a.c\"; var d = \"src/\" + e;\n"},
      {"p.sln",
       "Project(\"{2150E333-8FDC-42A3-9474-1A3956D46DE8}\") = \"lib\", \"lib\", "
       "\"{F}\"\r\n\tProjectSection(SolutionItems) = "
       "preProject\r\n\t\tdata\\x.txt = data\\x.txt\r\n\tEndProjectSection\r\nEndProject\r\nProject(\"{A}\") "
       "= "
       "\"p\", "
       "\"win\\p.vcxproj\", \"{P}\"\r\nEndProject\r\nGlobal\r\n\tGlobalSection(NestedProjects) = "
       "preSolution\r\n\t\t{P} = "
       "{F}\r\n\tEndGlobalSection\r\nEndGlobal\r\n"},
      {"win/p.vcxproj",
       "<Project><PropertyGroup Condition=\"'$(X)'=='a'\"><L>..\\lib</L></PropertyGroup><Import "
       "Project=\"..\\p.props\" "
       "/><ItemGroup><ClCompile Include=\"..\\src\\a.c;$(L)\\c.c\" Exclude=\"x\" /><ClCompile "
       "Include=\"..\\src\\**\\*.c\"><AdditionalIncludeDirectories>..\\inc;%(X)</"
       "AdditionalIncludeDirectories></"
       "ClCompile></ItemGroup><Target "
       "Name=\"t\"><Exec Command=\"cd .. &amp; copy &quot;data\\x.txt&quot; "
       "out\" Condition=\"Exists('..\\inc\\x.h')\"/></Target></Project>\n"},
      {"win/p.vcxproj.filters",
       "<Project><ItemGroup><Filter "
       "Include=\"src\"><UniqueIdentifier>{1}</UniqueIdentifier></Filter><ClCompile "
       "Include=\"..\\src\\a.c\"><Filter>src</Filter></ClCompile></ItemGroup></Project>\n"},
      {"q.csproj",
       "<Project Sdk=\"Microsoft.NET.Sdk\"><ItemGroup><Compile Remove=\"lib\\**\" /><EmbeddedResource "
       "Include=\"data/x.txt\" Link=\"x\" /></ItemGroup><PropertyGroup><K>$([MSBuild]::NormalizePath('$(X)', "
       "'data/x.txt'))</K></PropertyGroup></Project>\n"},
      {"old.vcproj",
       "<VisualStudioProject><Configurations><Configuration Name=\"Debug|Win32\"><Tool "
       "Name=\"VCCLCompilerTool\" "
       "AdditionalIncludeDirectories=\"inc,lib\" /></Configuration></Configurations><Files><Filter "
       "Name=\"src\"><File "
       "RelativePath=\".\\src\\a.c\"></File></Filter></Files></VisualStudioProject>\n"},
      {"p.xcodeproj/project.pbxproj",
       "// !$*UTF8*$!\n{ objects = { F = {isa = PBXFileReference; path = a.c; sourceTree = \"<group>\"; }; B "
       "= "
       "{isa = "
       "PBXBuildFile; fileRef = F; }; G = {isa = PBXGroup; children = (F, ); path = src; }; S = {isa = "
       "PBXSourcesBuildPhase; files = (B, ); }; H = {isa = PBXShellScriptBuildPhase; shellScript = \"cat "
       "\\\"$SRCROOT/data/x.txt\\\"\\n\"; }; C = {isa = XCBuildConfiguration; buildSettings = { "
       "HEADER_SEARCH_PATHS = (inc, "
       "\"$(SRCROOT)/lib/**\"); }; }; L = { buildConfigurations = (C); }; T = {isa = PBXNativeTarget; "
       "buildPhases = (S, H); "
       "buildConfigurationList = L; }; P = {isa = PBXProject; mainGroup = G; targets = (T); }; }; rootObject "
       "= "
       "P; }\n"},
      {"p.xcconfig", "#include \"q.xcconfig\"\nHEADER_SEARCH_PATHS = inc \"$(SRCROOT)/lib\" // c\n"},
      {"config.rb", "images_dir = \"data\" # all\nsass_dir = 'scss'\nset :css_dir, \"out/css\"\n"},
      {"lib/p.asmdef",
       "{\"name\": \"P\", \"references\": [\"GUID:1\", \"Q\"], \"includePlatforms\": [\"Editor\"]}\n"},
      {"Dockerfile",
       "FROM x AS y\nWORKDIR /a\nCOPY --chown=1 src/a.c \\\n  # c\n  inc/ ./\nCOPY [\"data/x.txt\", "
       "\"/x\"]\nCOPY lib lib\nRUN "
       "--mount=type=bind,source=inc/x.h,target=/h cat lib/c.c <<E\nsrc/a.c\nE\nCMD [\"cat\", "
       "\"lib/c.c\"]\n"},
      {".dockerignore", "!src/b.c\n/data/*.txt\n"},
      {"docker-compose.yml",
       "services:\n  w:\n    build: {context: ., dockerfile: Dockerfile}\n    env_file: [data/x.txt]\n    "
       "volumes:\n      - "
       "./src:/s:ro\n      - {type: bind, source: ./lib, target: /l}\n"},
      {".github/workflows/w.yml",
       "on: {push: {paths: ['src/**', '!inc/x.h']}}\njobs:\n  b:\n    steps:\n      - uses: ./lib\n      - "
       "run: |\n          cat "
       "\\\n            data/x.txt\n        working-directory: .\n      - run: cat ${{ github.workspace "
       "}}/src/a.c\n"},
      {".vscode/tasks.json",
       "{\"tasks\": [{\"command\": \"cat ${workspaceFolder}/data/x.txt\", \"cwd\": "
       "\"${workspaceFolder}/src\", "
       "/* c */ "
       "\"args\": [\"--x=${workspaceFolder}/inc/**\"]}]}\n"},
      {"src/src.ino", "#include \"a.c\"\n"},
      {"yellow-compass.toml",
       "[[references]]\nfiles = [\"*.ini\"]\npattern = 'f = (?<path>\\S+)'\nbase = \"data\"\n"},
      {"web/package.json",
       "{\"files\": [\"../lib\"], \"scripts\": {\"x\": \"cat ../data/x.txt\"}, \"main\": \"./m.js\"}\n"},
      {"web/m.ts",
       "import a from '../lib/c'; import(`../src/${a}`); const b = <C "
       "d={'../data/x.txt'}>{/x/.test(a)}</C>;\n"},
      {"web/m.scss", "@use \"../lib/c\"; $d: \"../data\"; .a { b: url(\"#{$d}/x.txt\") }\n"},
      {"web/m.html",
       "<script type=\"module\">import '../lib/c.js'</script><img src=../data/x.txt srcset='../data/x.txt "
       "2x'>\n"}};
  return all;
}

std::vector<Snippet> companions() {
  return {{"inc/x.h", ""},      {"data/x.txt", ""},   {"out/keep", ""},
          {"src/a.c", kSource}, {"src/b.c", kSource}, {"lib/c.c", kSource}};
}

}  // namespace yc::test
