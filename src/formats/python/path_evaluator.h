// Evaluates the expressions of a source, as far as that goes without running it, with the trace of every
// piece.
#pragma once

#include <functional>
#include <map>

#include "formats/python/path_values.h"
#include "formats/python/python_references.h"

namespace yc::python {

// Is told of an expression that holds strings of the file, and the token that it begins with.
using Emit = std::function<void(const Value&, std::size_t first)>;

// Hands out every expression of the file, the largest ones.
void evaluate_all(const Source& source, GraphBuilder& out, Constants& memo, Emit emit);
// The one that begins at a token.
Value evaluate_at(const Source& source, GraphBuilder& out, Constants& memo, std::size_t token);

}  // namespace yc::python
