// JavaScript and TypeScript: what modules import, also those within pages and components. Language: ECMA-262
// (modules), the resolution of Node.js and of TypeScript, and what bundlers add to them.
//
// A specifier is no plain path: endings are left out, an index is named by its folder, an alias stands for a
// folder, an output for its source. So its format alone spells it (OwnSpelling), in the manner of the old
// text. What settings say about names comes in as scopes: Alias (paths, imports, exports, packages of a
// workspace, aliases of bundlers, import maps), MergedFolders (rootDirs), OutputFolder, entries. What a
// compiler makes is a target of the kind "made", known by its source: "main": "./dist/main.js" follows
// src/main.ts, and a field that names nothing yet is left alone.
//
// A tree of modules is looked through once for the names that move, on all cores, before both readings
// (prepare()); what holds none is not kept and not searched again. If a file moves that tells others where to
// look (DefinesScope), nothing is confined.
#pragma once

#include <memory>

#include "formats/format.h"

namespace yc {

std::unique_ptr<Format> modules_format();

}  // namespace yc
