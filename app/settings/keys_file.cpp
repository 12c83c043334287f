#include "settings/keys_file.h"

#include <map>

#include "io/json_text.h"

namespace rubble::app {

namespace {

QString portable(const QKeySequence& key) { return key.toString(QKeySequence::PortableText); }

} // namespace

QByteArray text_of_keys(const Commands& commands) {
    io::Json keys = io::Json::object();
    for (const Commands::Command& command : commands.all())
        if (const QKeySequence key = command.action->shortcut(); key != command.standard)
            keys[command.id.toStdString()] = portable(key).toStdString();
    return QByteArray::fromStdString(io::Json{{"format", 1}, {"keys", keys}}.dump(2) + "\n");
}

Result<void> take_keys(Commands& commands, const QByteArray& text, const QString& name) {
    const std::string place = name.toStdString();
    const auto json = io::parse_json(text.toStdString(), place);
    if (!json) return tl::unexpected(json.error());
    if (!json->is_object() || !json->contains("keys") || !(*json)["keys"].is_object())
        return fail("file.value", place,
                    "no \"keys\" in it: write {\"format\": 1, \"keys\": {\"COMMAND\": \"KEY\"}}");
    std::map<QString, QKeySequence> wanted;
    for (const Commands::Command& command : commands.all()) wanted[command.id] = command.standard;
    for (const auto& [id, key] : (*json)["keys"].items()) {
        const auto command = wanted.find(QString::fromStdString(id));
        if (command == wanted.end()) return fail("file.value", place, "no command is called \"" + id + "\"");
        if (!key.is_string())
            return fail("file.value", place, "the key of \"" + id + "\" is no text such as \"Ctrl+B\"");
        const QString typed = QString::fromStdString(key.get<std::string>());
        const QKeySequence sequence(typed, QKeySequence::PortableText);
        if (!typed.isEmpty() && (sequence.isEmpty() || sequence[0].key() == Qt::Key_unknown))
            return fail("file.value", place, "\"" + typed.toStdString() + "\" is no key");
        command->second = sequence;
    }
    std::map<QString, QString> taken;
    for (const auto& [id, key] : wanted) {
        if (key.isEmpty()) continue;
        const auto [other, is_new] = taken.emplace(portable(key), id);
        if (!is_new)
            return fail("file.value", place,
                        portable(key).toStdString() + " is the key of both \"" + other->second.toStdString() +
                            "\" and \"" + id.toStdString() + "\"");
    }
    // Out of each other's way first: two may have changed places.
    for (const auto& [id, key] : wanted)
        if (commands.find(id)->action->shortcut() != key) commands.change_key(id, {});
    for (const auto& [id, key] : wanted) commands.change_key(id, key);
    return {};
}

void keys_as_at_first(Commands& commands) { (void)take_keys(commands, R"({"format": 1, "keys": {}})", {}); }

} // namespace rubble::app
