#pragma once

#include <QCoreApplication>
#include <QString>

namespace rubble::app {

/// Visible text in functions and tools that are no QObjects; those have a `tr` of their own.
inline QString tr(const char* text) { return QCoreApplication::translate("Rubble", text); }

} // namespace rubble::app
