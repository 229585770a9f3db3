// Project files of qmake, .pro, and what they include, .pri (Qt documentation, "qmake Language").
//
// Read: all assignments, with the values that any scope gives, as one; $$VAR, $$PWD, $$_PRO_FILE_PWD_,
// $$OUT_PWD; include(); SUBDIRS with their .file and .subdir; INCLUDEPATH and -L and -I of LIBS and flags as
// folders to look in; every other word that names something there. Not read: what functions give; a word with
// such a part is an unseen text.
//
// What an included file names is looked for from the folder of the project, as qmake does. A folder of
// SUBDIRS stands for the project in it that bears its name, and is respelled with that project's name once
// the two differ.
#pragma once

#include <memory>

#include "formats/format.h"

namespace yc {

std::unique_ptr<Format> qmake_format();

}  // namespace yc
