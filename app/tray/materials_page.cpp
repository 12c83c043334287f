#include <QApplication>
#include <QColorDialog>
#include <QComboBox>
#include <QDrag>
#include <QGridLayout>
#include <QMimeData>
#include <QMouseEvent>
#include <QPixmapCache>

#include "commands/dressing.h"
#include "dressing/prints_dialog.h"
#include "edit/project.h"
#include "numbers.h"
#include "theme.h"
#include "tray/pages.h"

namespace rubble::app {

namespace {

constexpr int k_swatch_px = 40;

/// A material as a small picture of itself.
QPixmap swatch_of(const Material& material) {
    const QColor color(material.color[0], material.color[1], material.color[2]);
    const PictureBytes* bytes = material.picture();
    constexpr qsizetype k_told = 4096; // bytes that tell one picture from others, with its length
    const auto begin =
        bytes ? QByteArray::fromRawData(bytes->bytes.data(),
                                        std::min<qsizetype>(k_told, qsizetype(bytes->bytes.size())))
              : QByteArray();
    const QString key = QStringLiteral("material %1 %2 %3")
                            .arg(color.name())
                            .arg(qHash(begin))
                            .arg(bytes ? bytes->bytes.size() : 0);
    QPixmap swatch;
    if (QPixmapCache::find(key, &swatch)) return swatch;
    swatch = QPixmap(k_swatch_px, k_swatch_px);
    swatch.fill(color);
    if (bytes)
        if (const QImage image = QImage::fromData(reinterpret_cast<const uchar*>(bytes->bytes.data()),
                                                  int(bytes->bytes.size()));
            !image.isNull())
            swatch = QPixmap::fromImage(
                image.scaled(k_swatch_px, k_swatch_px, Qt::IgnoreAspectRatio, Qt::SmoothTransformation));
    QPixmapCache::insert(key, swatch);
    return swatch;
}

QString numbers_of(const Material& material) {
    if (!material.picture()) return Tray::tr("roughness %1").arg(plain_number(material.roughness));
    if (material.kind == MaterialKind::prints) return Tray::tr("prints");
    return Tray::tr("%1 × %2 m").arg(plain_number(material.metres.x), plain_number(material.metres.y));
}

/// What else is meant besides the faces that are picked.
void add_widening(Page& page, Tray& tray) {
    page.add_heading(Tray::tr("Faces"));
    const std::pair<QString, const char*> ways[] = {
        {Tray::tr("In its plane"), "faces-plane"}, {Tray::tr("This way"), "faces-direction"},
        {Tray::tr("All of it"), "faces-brush"},    {Tray::tr("Like it"), "faces-material"},
        {Tray::tr("Ring"), "faces-ring"},          {Tray::tr("Next bare"), "bare-next"}};
    auto* grid = new QGridLayout;
    int i = 0;
    for (const auto& [text, command] : ways) {
        auto* button = new QPushButton(text);
        QObject::connect(button, &QPushButton::clicked, &page,
                         [&tray, id = QString::fromLatin1(command)] { emit tray.commandWanted(id); });
        grid->addWidget(button, i / 2, i % 2);
        ++i;
    }
    page.column().addLayout(grid);
}

/// What the bare faces of the chosen layer get, and how much is dressed.
void add_bare(Page& page, Tray& tray) {
    Session& session = page.session();
    QLabel* share = page.add_text({}, "plain");
    const std::tuple<QString, MaterialId StandardMaterials::*> kinds[] = {
        {Tray::tr("Floors"), &StandardMaterials::floor},
        {Tray::tr("Walls"), &StandardMaterials::wall},
        {Tray::tr("Ceilings"), &StandardMaterials::ceiling}};
    std::vector<QComboBox*> choices;
    auto* grid = new QGridLayout;
    for (const auto& [text, member] : kinds) {
        auto* choice = new QComboBox;
        choice->setAccessibleName(text);
        grid->addWidget(new QLabel(text), int(choices.size()), 0);
        grid->addWidget(choice, int(choices.size()), 1);
        choices.push_back(choice);
        QObject::connect(choice, &QComboBox::activated, &page, [&session, choice, member = member] {
            if (session.layer() < 0) return;
            Level level = session.stored_level();
            Layer layer = *level.layers[size_t(session.layer())];
            layer.standard.*member = {choice->currentData().toString().toStdString()};
            level.layers[size_t(session.layer())] = std::move(layer);
            session.apply(std::move(level), Tray::tr("Standard material"));
        });
    }
    page.column().addLayout(grid);
    page.on_refresh([&session, share, choices, kinds = std::vector(std::begin(kinds), std::end(kinds))] {
        double dressed = 0, bare = 0;
        for (const edit::Dressed& layer : edit::dressed_of(session.level()))
            dressed += layer.dressed_m2, bare += layer.bare_m2;
        const double part = dressed + bare > 0 ? 100 * dressed / (dressed + bare) : 0;
        share->setText(Tray::tr("%1 % dressed; bare: %2 m²").arg(part, 0, 'f', 0).arg(bare, 0, 'f', 0));
        const Level& level = session.level();
        const int layer = session.layer();
        for (size_t i = 0; i < choices.size(); ++i) {
            const QSignalBlocker block(choices[i]);
            choices[i]->clear();
            choices[i]->addItem(Tray::tr("left bare"), QString());
            for (const Material& material : session.project().materials)
                choices[i]->addItem(QString::fromStdString(material.name),
                                    QString::fromStdString(material.id.value));
            const MaterialId chosen =
                layer < 0 ? MaterialId{} : level.layers[size_t(layer)]->standard.*std::get<1>(kinds[i]);
            choices[i]->setCurrentIndex(
                std::max(choices[i]->findData(QString::fromStdString(chosen.value)), 0));
        }
    });
    page.add_button(Tray::tr("Dress what is bare"),
                    [&tray] { emit tray.commandWanted(QStringLiteral("bare-dress")); });
}

/// Lets the materials of a list be dragged onto faces.
class MaterialDrag : public QObject {
public:
    MaterialDrag(Session& session, QListWidget& list) : QObject(&list), session_(session), list_(list) {
        list.viewport()->installEventFilter(this);
    }

protected:
    bool eventFilter(QObject* watched, QEvent* event) override {
        if (event->type() == QEvent::MouseButtonPress)
            pressed_ = static_cast<QMouseEvent*>(event)->position().toPoint();
        const bool moved = event->type() == QEvent::MouseMove;
        const auto* mouse = moved ? static_cast<QMouseEvent*>(event) : nullptr;
        if (mouse && (mouse->buttons() & Qt::LeftButton) &&
            (mouse->position().toPoint() - pressed_).manhattanLength() >= QApplication::startDragDistance()) {
            begin();
            return true;
        }
        return QObject::eventFilter(watched, event);
    }

private:
    void begin() {
        const int row = list_.row(list_.itemAt(pressed_));
        const auto& materials = session_.project().materials;
        if (row < 0 || size_t(row) >= materials.size()) return;
        auto* drag = new QDrag(&list_);
        auto* data = new QMimeData;
        data->setData(QString::fromLatin1(tray_material_format),
                      QByteArray::fromStdString(materials[size_t(row)].id.value));
        drag->setMimeData(data);
        drag->setPixmap(swatch_of(materials[size_t(row)]));
        drag->exec(Qt::CopyAction);
    }

    Session& session_;
    QListWidget& list_;
    QPoint pressed_;
};

} // namespace

void fill_materials(Page& page, Tray& tray) {
    Session& session = page.session();
    page.add_heading(Tray::tr("Materials"));
    QListWidget* list = page.add_list(Tray::tr("Materials"), 1);
    list->setIconSize({k_swatch_px, k_swatch_px});
    list->setToolTip(Tray::tr("Click gives it to the picked faces; drag it onto one"));
    new MaterialDrag(session, *list);
    page.on_refresh([&session, list] {
        const QSignalBlocker block(list);
        const int row = list->currentRow();
        list->clear();
        for (const Material& material : session.project().materials)
            list->addItem(new QListWidgetItem(
                QIcon(swatch_of(material)),
                QStringLiteral("%1\n%2").arg(QString::fromStdString(material.name), numbers_of(material))));
        list->setCurrentRow(row);
    });
    const auto material_at = [&session](int row) {
        return row >= 0 && size_t(row) < session.project().materials.size()
                   ? std::optional(session.project().materials[size_t(row)].id)
                   : std::nullopt;
    };
    const auto give = [&session, list, material_at] {
        if (const auto id = material_at(list->currentRow())) give_material(session, *id);
    };
    QObject::connect(list, &QListWidget::itemClicked, &page, give);
    QObject::connect(list, &QListWidget::itemActivated, &page, give);
    page.add_button(Tray::tr("Give to the whole brush"), [&session, list, material_at] {
        if (const auto id = material_at(list->currentRow())) give_material_to_brushes(session, *id);
    });
    page.add_button(Tray::tr("Prints on its picture…"), [&page, &session, list, material_at] {
        const auto id = material_at(list->currentRow());
        const Material* material = id ? find_material(session.project(), *id) : nullptr;
        if (!material || !material->picture())
            return session.documents().show_message(Tray::tr("Choose a material with a picture first"));
        PrintsDialog dialog(*material, &page);
        if (dialog.exec() == QDialog::Accepted && !(dialog.material() == *material))
            session.apply(edit::with_material(session.project(), dialog.material()), Tray::tr("Prints"));
    });
    page.add_button(Tray::tr("Add pictures…"),
                    [&tray] { emit tray.commandWanted(QStringLiteral("material-pictures")); });
    page.add_button(Tray::tr("Add a colour…"), [&page, &session] {
        const QColor rgb =
            QColorDialog::getColor(color::stone, &page, Tray::tr("Colour of the new material"));
        if (!rgb.isValid()) return;
        Material material;
        material.id = edit::fresh_material_id(session.project());
        material.name = Tray::tr("Material %1").arg(session.project().materials.size() + 1).toStdString();
        material.color = {uint8_t(rgb.red()), uint8_t(rgb.green()), uint8_t(rgb.blue())};
        session.apply(edit::with_material(session.project(), material), Tray::tr("Add material"));
    });
    add_widening(page, tray);
    add_bare(page, tray);
    page.add_heading(Tray::tr("Lights"));
    add_stage_tools(page, tray);
}

} // namespace rubble::app
