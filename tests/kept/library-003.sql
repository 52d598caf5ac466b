-- A library as the third step of its schema left it
BEGIN TRANSACTION;
CREATE TABLE captures (
            sha256 TEXT PRIMARY KEY,
            file_name TEXT NOT NULL,          -- as it was given
            suffix TEXT NOT NULL,             -- of the copy in originals/
            kind TEXT NOT NULL,               -- raw, tiff, png, jpeg
            bytes INTEGER NOT NULL,
            width INTEGER NOT NULL,           -- upright, pixels
            height INTEGER NOT NULL,
            scale REAL NOT NULL,              -- linear value of a code of the developed light
            metadata TEXT NOT NULL            -- JSON
        , place TEXT, place_time INTEGER, lost_at TEXT) STRICT;
INSERT INTO "captures" VALUES('e8849e04652d24409f4f49ba3ff14cf311c991d0137be76bec01d8fd2f0ed64c','03 jug.png','.png','png',16328,90,60,1.52590218966964217585e-05,'{"camera":null,"maker":null,"model":null,"lens":null,"taken":null,"shutter":null,"aperture":null,"sensitivity":null,"focal_length":null,"orientation":1,"baseline_exposure":0.0,"temperature":null}',NULL,NULL,NULL);
CREATE TABLE changes (
            id INTEGER PRIMARY KEY,
            print_id INTEGER NOT NULL REFERENCES prints (id),
            parent INTEGER REFERENCES changes (id),
            label TEXT NOT NULL,
            recipe TEXT NOT NULL,             -- JSON, silvrin-recipe-1
            made_at TEXT NOT NULL
        ) STRICT;
INSERT INTO "changes" VALUES(1,1,NULL,'New print','{"format":"silvrin-recipe-1","capture":{"infrared":false,"neutral":null,"red":1.0,"green":1.0,"blue":1.0,"hot_spot":0.0,"hot_spot_size":0.35,"balance":null,"warmth":0.0,"tint":0.0,"open_shadows":0.0,"rein_highlights":0.0,"quarter_turns":0,"flip":false,"straighten":0.0,"keystone_vertical":0.0,"keystone_horizontal":0.0,"distortion":0.0,"lateral_red":0.0,"lateral_blue":0.0,"fall_off":0.0,"lens":null,"recover_highlights":1.0,"luminance_noise":0.0,"colour_noise":0.0,"defringe":0.0,"swap":false,"crop":null,"mends":[],"protected":[],"exposure":0.0},"light":{"source":"by-temperature","temperature":5500.0,"lens_filter":"none","strength":1.0,"second_filter":"none","second_strength":1.0,"filter_hue":30.0,"compensate":true,"hue_bands":[{"stops":0.0,"centre":12.0,"width":44.0,"softness":1.0},{"stops":0.0,"centre":45.0,"width":37.0,"softness":1.0},{"stops":0.0,"centre":85.0,"width":43.0,"softness":1.0},{"stops":0.0,"centre":130.0,"width":52.0,"softness":1.0},{"stops":0.0,"centre":190.0,"width":55.0,"softness":1.0},{"stops":0.0,"centre":240.0,"width":41.0,"softness":1.0},{"stops":0.0,"centre":272.0,"width":42.0,"softness":1.0},{"stops":0.0,"centre":325.0,"width":50.0,"softness":1.0}],"hue_shift":0.0,"chroma_smoothing":0.0,"haze":0.0,"soft_focus":0.0,"soft_size":1.0,"soft_on":"all","focus_blur":0.0,"focus_shape":"oval","focus_x":0.5,"focus_y":0.5,"focus_size":0.25,"focus_aspect":1.0,"focus_angle":0.0,"focus_transition":0.25},"film":{"stock":"larch-100","exposure_index":null,"film_format":"35 mm","grain":1.0,"grain_size":1.0,"grain_softness":0.0,"grain_evenness":0.0,"halation":1.0,"foliage":0.0,"sky":0.0,"placement":0.0,"spots":[]},"development":{"n":0.0,"developer":"general","fine":{"strength":0.0,"shadows":1.0,"middle":1.0,"highlights":1.0},"mid_scale":{"strength":0.0,"shadows":1.0,"middle":1.0,"highlights":1.0},"broad":{"strength":0.0,"shadows":1.0,"middle":1.0,"highlights":1.0},"threshold":0.04,"hold_highlights":0.5,"hold_shadows":0.5,"zone_lift":[0.0,0.0,0.0,0.0,0.0,0.0,0.0,0.0,0.0,0.0,0.0],"zone_contrast":[0.0,0.0,0.0,0.0,0.0,0.0,0.0,0.0,0.0,0.0,0.0],"brightness":0.0},"enlarger":{"head":"diffuse","time":null,"soft_time":6.0,"hard_time":6.0},"paper":{"paper":"glossy-fibre-neutral","grade":2.0,"split":false,"black_at":1.0,"white_at":0.0,"hold_highlights":0.0,"hold_shadows":0.0,"mid_point":0.0,"curve":[],"value_lift":[0.0,0.0,0.0,0.0,0.0,0.0,0.0,0.0,0.0,0.0,0.0]}}','2026-11-25T20:02:41.124+00:00');
INSERT INTO "changes" VALUES(2,1,1,'Grade 4','{"format":"silvrin-recipe-1","capture":{"infrared":false,"neutral":null,"red":1.0,"green":1.0,"blue":1.0,"hot_spot":0.0,"hot_spot_size":0.35,"balance":null,"warmth":0.0,"tint":0.0,"open_shadows":0.0,"rein_highlights":0.0,"quarter_turns":0,"flip":false,"straighten":0.0,"keystone_vertical":0.0,"keystone_horizontal":0.0,"distortion":0.0,"lateral_red":0.0,"lateral_blue":0.0,"fall_off":0.0,"lens":null,"recover_highlights":1.0,"luminance_noise":0.0,"colour_noise":0.0,"defringe":0.0,"swap":false,"crop":null,"mends":[],"protected":[],"exposure":0.0},"light":{"source":"by-temperature","temperature":5500.0,"lens_filter":"none","strength":1.0,"second_filter":"none","second_strength":1.0,"filter_hue":30.0,"compensate":true,"hue_bands":[{"stops":0.0,"centre":12.0,"width":44.0,"softness":1.0},{"stops":0.0,"centre":45.0,"width":37.0,"softness":1.0},{"stops":0.0,"centre":85.0,"width":43.0,"softness":1.0},{"stops":0.0,"centre":130.0,"width":52.0,"softness":1.0},{"stops":0.0,"centre":190.0,"width":55.0,"softness":1.0},{"stops":0.0,"centre":240.0,"width":41.0,"softness":1.0},{"stops":0.0,"centre":272.0,"width":42.0,"softness":1.0},{"stops":0.0,"centre":325.0,"width":50.0,"softness":1.0}],"hue_shift":0.0,"chroma_smoothing":0.0,"haze":0.0,"soft_focus":0.0,"soft_size":1.0,"soft_on":"all","focus_blur":0.0,"focus_shape":"oval","focus_x":0.5,"focus_y":0.5,"focus_size":0.25,"focus_aspect":1.0,"focus_angle":0.0,"focus_transition":0.25},"film":{"stock":"larch-100","exposure_index":null,"film_format":"35 mm","grain":1.0,"grain_size":1.0,"grain_softness":0.0,"grain_evenness":0.0,"halation":1.0,"foliage":0.0,"sky":0.0,"placement":0.0,"spots":[]},"development":{"n":0.0,"developer":"general","fine":{"strength":0.0,"shadows":1.0,"middle":1.0,"highlights":1.0},"mid_scale":{"strength":0.0,"shadows":1.0,"middle":1.0,"highlights":1.0},"broad":{"strength":0.0,"shadows":1.0,"middle":1.0,"highlights":1.0},"threshold":0.04,"hold_highlights":0.5,"hold_shadows":0.5,"zone_lift":[0.0,0.0,0.0,0.0,0.0,0.0,0.0,0.0,0.0,0.0,0.0],"zone_contrast":[0.0,0.0,0.0,0.0,0.0,0.0,0.0,0.0,0.0,0.0,0.0],"brightness":0.0},"enlarger":{"head":"diffuse","time":null,"soft_time":6.0,"hard_time":6.0},"paper":{"paper":"glossy-fibre-neutral","grade":4.0,"split":false,"black_at":1.0,"white_at":0.0,"hold_highlights":0.0,"hold_shadows":0.0,"mid_point":0.0,"curve":[],"value_lift":[0.0,0.0,0.0,0.0,0.0,0.0,0.0,0.0,0.0,0.0,0.0]}}','2026-11-25T20:02:41.125+00:00');
INSERT INTO "changes" VALUES(3,1,2,'Much','{"format":"silvrin-recipe-1","capture":{"infrared":false,"neutral":null,"red":1.0,"green":1.0,"blue":1.0,"hot_spot":0.0,"hot_spot_size":0.35,"balance":null,"warmth":20.0,"tint":0.0,"open_shadows":0.0,"rein_highlights":0.0,"quarter_turns":0,"flip":false,"straighten":1.5,"keystone_vertical":0.0,"keystone_horizontal":0.0,"distortion":0.01,"lateral_red":0.0,"lateral_blue":0.0,"fall_off":0.0,"lens":{"name":"An invented lens","distortion":[],"red":[],"blue":[],"fall_off":[0.0,0.002,0.008,0.018,0.032,0.05,0.072,0.098,0.128,0.162,0.2,0.242,0.288,0.338,0.392,0.45,0.512,0.578,0.648,0.722,0.8,0.882,0.968,1.058,1.152]},"recover_highlights":1.0,"luminance_noise":0.0,"colour_noise":0.0,"defringe":0.0,"swap":false,"crop":[0.1,0.05,0.9,0.95],"mends":[{"x":120,"y":80,"radius":6,"path":[],"fill":false,"from_x":null,"from_y":null},{"x":300,"y":200,"radius":9,"path":[[320,210],[350,240]],"fill":false,"from_x":null,"from_y":null},{"x":500,"y":300,"radius":40,"path":[],"fill":true,"from_x":null,"from_y":null},{"x":90,"y":400,"radius":5,"path":[],"fill":false,"from_x":120,"from_y":400}],"protected":[{"points":[[10,10],[60,12],[40,70]]}],"exposure":0.3333333333333333},"light":{"source":"by-temperature","temperature":5500.0,"lens_filter":"25","strength":1.0,"second_filter":"none","second_strength":1.0,"filter_hue":30.0,"compensate":true,"hue_bands":[{"stops":0.0,"centre":12.0,"width":44.0,"softness":1.0},{"stops":0.0,"centre":45.0,"width":37.0,"softness":1.0},{"stops":0.0,"centre":85.0,"width":43.0,"softness":1.0},{"stops":0.0,"centre":130.0,"width":52.0,"softness":1.0},{"stops":0.0,"centre":190.0,"width":55.0,"softness":1.0},{"stops":0.0,"centre":240.0,"width":41.0,"softness":1.0},{"stops":0.0,"centre":272.0,"width":42.0,"softness":1.0},{"stops":0.0,"centre":325.0,"width":50.0,"softness":1.0}],"hue_shift":0.0,"chroma_smoothing":0.0,"haze":-0.2,"soft_focus":0.0,"soft_size":1.0,"soft_on":"all","focus_blur":0.5,"focus_shape":"oval","focus_x":0.3,"focus_y":0.5,"focus_size":0.25,"focus_aspect":1.0,"focus_angle":0.0,"focus_transition":0.25},"film":{"stock":"rowan-200","exposure_index":null,"film_format":"35 mm","grain":1.0,"grain_size":1.0,"grain_softness":0.0,"grain_evenness":0.0,"halation":1.0,"foliage":0.0,"sky":0.0,"placement":-0.5,"spots":[{"letter":"A","x":200,"y":100,"radius":4,"placed":3.0}]},"development":{"n":-1.0,"developer":"general","fine":{"strength":0.0,"shadows":1.0,"middle":1.0,"highlights":1.0},"mid_scale":{"strength":0.0,"shadows":1.0,"middle":1.0,"highlights":1.0},"broad":{"strength":0.0,"shadows":1.0,"middle":1.0,"highlights":1.0},"threshold":0.04,"hold_highlights":0.5,"hold_shadows":0.5,"zone_lift":[0.0,0.0,0.5,0.0,0.0,0.0,0.0,0.0,-0.5,0.0,0.0],"zone_contrast":[0.0,0.0,0.0,0.0,0.0,0.0,0.0,0.0,0.0,0.0,0.0],"brightness":0.0},"enlarger":{"head":"diffuse","time":14.5,"soft_time":6.0,"hard_time":6.0},"paper":{"paper":"glossy-fibre-neutral","grade":3.5,"split":false,"black_at":1.0,"white_at":0.0,"hold_highlights":0.0,"hold_shadows":0.0,"mid_point":0.0,"curve":[],"value_lift":[0.0,0.0,0.0,0.0,0.0,0.0,0.0,0.0,0.0,0.0,0.0]}}','2026-11-25T20:02:41.126+00:00');
CREATE TABLE counters (
            name TEXT PRIMARY KEY,
            value INTEGER NOT NULL
        ) STRICT;
INSERT INTO "counters" VALUES('shelf edition',0);
CREATE TABLE deliveries (
            id INTEGER PRIMARY KEY,
            print_id INTEGER NOT NULL REFERENCES prints (id),
            change_id INTEGER NOT NULL REFERENCES changes (id),
            file TEXT NOT NULL,
            format TEXT NOT NULL,
            width INTEGER NOT NULL,
            height INTEGER NOT NULL,
            bytes INTEGER NOT NULL,
            finished_at TEXT NOT NULL
        ) STRICT;
CREATE TABLE dust_maps (
            roll_id INTEGER NOT NULL REFERENCES rolls (id),
            camera TEXT NOT NULL,
            width INTEGER NOT NULL,           -- of the sensor, pixels
            height INTEGER NOT NULL,
            specks TEXT NOT NULL,             -- JSON
            PRIMARY KEY (roll_id, camera, width, height)
        ) STRICT;
CREATE TABLE frames (
            id INTEGER PRIMARY KEY,
            roll_id INTEGER NOT NULL REFERENCES rolls (id),
            number INTEGER NOT NULL,
            sha256 TEXT NOT NULL REFERENCES captures (sha256),
            title TEXT NOT NULL,
            mark TEXT NOT NULL DEFAULT 'none' CHECK (mark IN ('none', 'ring', 'dot', 'cross')), binned_at TEXT,
            UNIQUE (roll_id, number)
        ) STRICT;
INSERT INTO "frames" VALUES(1,1,1,'e8849e04652d24409f4f49ba3ff14cf311c991d0137be76bec01d8fd2f0ed64c','Jug','ring',NULL);
CREATE TABLE import_files (
            import_id INTEGER NOT NULL REFERENCES imports (id),
            number INTEGER NOT NULL,
            path TEXT NOT NULL,               -- below the folder
            outcome TEXT NOT NULL DEFAULT 'waiting'
                CHECK (outcome IN ('waiting', 'taken', 'known', 'refused', 'left')),
            reason TEXT,
            frame_id INTEGER REFERENCES frames (id) ON DELETE SET NULL,
            PRIMARY KEY (import_id, number)
        ) STRICT, WITHOUT ROWID;
CREATE TABLE imports (
            id INTEGER PRIMARY KEY,
            roll_id INTEGER NOT NULL REFERENCES rolls (id),
            folder TEXT NOT NULL,
            keep TEXT NOT NULL CHECK (keep IN ('copy', 'refer')),
            again INTEGER NOT NULL,           -- 1: also what other rolls have
            state TEXT NOT NULL DEFAULT 'running'
                CHECK (state IN ('running', 'done', 'cancelled', 'stopped')),
            error TEXT,                       -- why it stopped
            made_at TEXT NOT NULL
        ) STRICT;
CREATE TABLE ledger (step TEXT PRIMARY KEY, applied_at TEXT NOT NULL) STRICT;
INSERT INTO "ledger" VALUES('001 first light','2026-11-25 20:02:41');
INSERT INTO "ledger" VALUES('002 own shelf','2026-11-25 20:02:41');
INSERT INTO "ledger" VALUES('003 taking in','2026-11-25 20:02:41');
CREATE TABLE pending_merges (
            id INTEGER PRIMARY KEY,
            merge_order TEXT NOT NULL         -- JSON
        ) STRICT;
CREATE TABLE prints (
            id INTEGER PRIMARY KEY,
            frame_id INTEGER NOT NULL REFERENCES frames (id),
            name TEXT NOT NULL,
            head INTEGER REFERENCES changes (id)
        ) STRICT;
INSERT INTO "prints" VALUES(1,1,'First',3);
CREATE TABLE rolls (
            id INTEGER PRIMARY KEY,
            name TEXT NOT NULL,
            created_at TEXT NOT NULL          -- UTC, ISO 8601
        , binned_at TEXT) STRICT;
INSERT INTO "rolls" VALUES(1,'Old roll','2026-11-25T20:02:41.086+00:00',NULL);
CREATE TABLE shelf_items (
            id TEXT PRIMARY KEY,
            kind TEXT NOT NULL CHECK (kind IN ('stock', 'filter', 'light')),
            document TEXT NOT NULL,           -- JSON, silvrin-shelf-1
            made_at TEXT NOT NULL
        ) STRICT;
CREATE INDEX prints_by_frame ON prints (frame_id);
CREATE INDEX changes_by_parent ON changes (parent);
CREATE INDEX frames_by_capture ON frames (sha256);
COMMIT;
