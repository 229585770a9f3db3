// Makefiles of nmake (Microsoft's NMAKE Reference) and of makes that read the same: .vc, .msc, .msvc, .bcc,
// .bor.
//
// Read: macros with every value that any side of a conditional gives them, rules and their commands, the
// files of !INCLUDE, and rules of inference with the folders that they look in ("{..\lib\}.c{obj\}.obj::").
// Such a makefile does not say from which folder it is started; its own folder or one above it is taken,
// whichever holds most of what its words name. Not read: what a substitution ("$(X:.c=.obj)") makes, whose
// words are objects as a rule.
//
// A path is respelled with the separators that it has. A source that leaves a folder of inference gets a rule
// of its own beside the old one, in the manner of a neighbouring folder's where there is one.
#pragma once

#include <memory>

#include "formats/format.h"

namespace yc {

std::unique_ptr<Format> nmake_format();

}  // namespace yc
