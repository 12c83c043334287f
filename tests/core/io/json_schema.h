#pragma once

#include <QFile>
#include <QProcess>
#include <QStringList>
#include <QTemporaryDir>

#include "io/json_text.h"

namespace rubble::test {

/// For each document the first thing in which it does not follow a schema of `docs/formats`, empty where it
/// follows it, as Debian's jsonschema for Python finds them (JSON Schema 2020-12). One line where that cannot
/// be run.
inline QStringList schema_problems(const char* schema, const std::vector<io::Json>& documents) {
    static const char* const k_validate = R"(
import json, sys
import jsonschema
schema = json.load(open(sys.argv[1]))
validator = jsonschema.validators.validator_for(schema)(schema)
validator.check_schema(schema)
for document in json.load(open(sys.argv[2])):
    error = next(validator.iter_errors(document), None)
    print(f"{error.json_path}: {error.message}".replace("\n", " ") if error else "")
)";
    const QTemporaryDir folder;
    QFile file(folder.filePath("documents.json"));
    if (!file.open(QIODevice::WriteOnly)) return {"no folder for documents"};
    file.write(QByteArray::fromStdString(io::Json(documents).dump()));
    file.close();
    QProcess python;
    python.start("python3",
                 {"-c", k_validate, QString(RUBBLE_SOURCE_DIR "/docs/formats/") + schema, file.fileName()});
    if (!python.waitForFinished(120'000) || python.exitCode() != 0)
        return {"python3-jsonschema: " + QString::fromUtf8(python.readAllStandardError())};
    QStringList lines = QString::fromUtf8(python.readAllStandardOutput()).split('\n');
    lines.removeLast();
    return lines;
}

} // namespace rubble::test
