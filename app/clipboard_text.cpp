#include "clipboard_text.h"

#include <QClipboard>
#include <QGuiApplication>
#include <QMimeData>

#include "io/item_file.h"

namespace rubble::app {

namespace {

const QString k_type = QStringLiteral("application/x-rubble-items+json");

} // namespace

void put_on_clipboard(const edit::Clip& clip) {
    io::Json json;
    json["anchor"] = io::to_json(clip.anchor);
    json["items"] = io::Json::array();
    for (const ItemPtr& item : clip.items) json["items"].push_back(io::to_json(*item));
    auto* data = new QMimeData;
    const QString text = QString::fromStdString(io::to_text(json));
    data->setData(k_type, text.toUtf8());
    data->setText(text);
    QGuiApplication::clipboard()->setMimeData(data);
}

std::optional<edit::Clip> clip_from_clipboard() {
    const QMimeData* data = QGuiApplication::clipboard()->mimeData();
    if (!data || !data->hasFormat(k_type)) return {};
    const auto json = io::parse_json(data->data(k_type).toStdString(), "clipboard");
    if (!json) return {};
    io::Reader in(*json, "clipboard");
    edit::Clip clip;
    const auto anchor = in.numbers("anchor", 3, {0, 0, 0});
    clip.anchor = {anchor[0], anchor[1], anchor[2]};
    for (const io::Json& one : in.list("items")) {
        auto item = io::item_from_json(one, "clipboard", "/items");
        if (!item) return {};
        clip.items.push_back(std::move(*item));
    }
    if (!in.ok() || clip.items.empty()) return {};
    return clip;
}

} // namespace rubble::app
