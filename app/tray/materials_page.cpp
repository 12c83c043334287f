#include <QColorDialog>

#include "edit/brushes.h"
#include "edit/items.h"
#include "edit/project.h"
#include "numbers.h"
#include "theme.h"
#include "tray/pages.h"

namespace rubble::app {

void fill_materials(Page& page) {
    Session& session = page.session();
    page.add_heading(Tray::tr("Materials"));
    QListWidget* list = page.add_list(Tray::tr("Materials"), 1);
    page.on_refresh([&session, list] {
        const QSignalBlocker block(list);
        const int row = list->currentRow();
        list->clear();
        for (const Material& material : session.project().materials) {
            QPixmap swatch(22, 22);
            swatch.fill(QColor(material.color[0], material.color[1], material.color[2]));
            list->addItem(new QListWidgetItem(QIcon(swatch), Tray::tr("%1\nroughness %2")
                                                                 .arg(QString::fromStdString(material.name),
                                                                      plain_number(material.roughness))));
        }
        list->setCurrentRow(row);
    });
    auto chosen = [&session, list]() -> const Material* {
        const int row = list->currentRow();
        return row >= 0 && size_t(row) < session.project().materials.size()
                   ? &session.project().materials[size_t(row)]
                   : nullptr;
    };
    // Gives the chosen material to every selected brush by `change(brush, material)`.
    auto give = [&session, chosen](auto change) {
        const Material* material = chosen();
        if (!material || session.selection().empty()) {
            emit session.message(Tray::tr("Choose a material here and click a brush in the view"));
            return;
        }
        Level level = session.level();
        for (const ItemId& id : session.selection())
            if (const Item* item = find_item(level, id); item && item->brush()) {
                Item copy = *item;
                copy.body = change(*item->brush(), material->id);
                level = edit::with_changed(level, copy);
            }
        session.apply(std::move(level), Tray::tr("Material"));
    };
    QPushButton* face = page.add_button(Tray::tr("Apply to the clicked face"), [&session, give] {
        const auto side = session.selected_items().side();
        if (!side) {
            emit session.message(Tray::tr("Click the face of a brush in the view first"));
            return;
        }
        give([side](const Brush& brush, const MaterialId& id) {
            return edit::with_side_material(brush, *side, id);
        });
    });
    QObject::connect(&session, &Session::selectionChanged, face,
                     [&session, face] { face->setEnabled(session.selected_items().side().has_value()); });
    face->setEnabled(session.selected_items().side().has_value());
    page.add_button(Tray::tr("Apply to the whole brush"), [give] {
        give([](Brush brush, const MaterialId& id) {
            brush.material = id;
            brush.looks.clear();
            return brush;
        });
    });
    page.add_button(Tray::tr("Add a material…"), [&page, &session] {
        const QColor rgb =
            QColorDialog::getColor(color::stone, &page, Tray::tr("Colour of the new material"));
        if (!rgb.isValid()) return;
        Material material;
        material.id = edit::fresh_material_id(session.project());
        material.name = Tray::tr("Material %1").arg(session.project().materials.size() + 1).toStdString();
        material.color = {uint8_t(rgb.red()), uint8_t(rgb.green()), uint8_t(rgb.blue())};
        session.apply(edit::with_material(session.project(), material), Tray::tr("Add material"));
    });
}

} // namespace rubble::app
