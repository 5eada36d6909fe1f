-- +goose Up
-- One machine and one set of habits become the first of several. What the old
-- settings did not say is what a new workshop starts with.
UPDATE settings SET document = json_object(
    'version', json_extract(document, '$.version'),
    'answered', json(iif(json_extract(document, '$.answered'), 'true', 'false')),
    'machine', 'machine',
    'machines', json_array(json_object(
        'id', 'machine', 'name', 'My machine',
        'gears', json_extract(document, '$.gears'),
        'angleStep', json_extract(document, '$.angleStep'),
        'angleLow', 0, 'angleHigh', 95, 'angleZero', 0, 'repeatability', 0.05,
        'cheater', iif(json_extract(document, '$.cheater'), 'degrees', 'none'), 'cheatPerTurn', 1,
        'heightStep', 0.01, 'heightSense', 'lifts', 'tableAdapter', 45)),
    'habit', 'habits',
    'habits', json_array(json_object(
        'id', 'habits', 'name', 'My habits', 'firstSide', 'drawn',
        'tick', json_extract(document, '$.tick'),
        'girdle', 'drawn', 'table', 'drawn', 'visiting', 'written',
        'girdleFinish', 'polished', 'turning', 'whole',
        'passes', json_extract(document, '$.passes'))),
    'materials', json_array());

-- A plan turns each side on its own, and says which habits it was made with.
UPDATE plans SET document = json_remove(json_set(document,
    '$.turns', json_object('pavilion', json_extract(document, '$.turn'), 'crown', json_extract(document, '$.turn')),
    '$.choices.machine', 'machine', '$.choices.girdle', 'drawn', '$.choices.table', 'drawn',
    '$.choices.visiting', 'written', '$.choices.girdleFinish', 'polished', '$.choices.turning', 'whole'),
    '$.turn');

-- +goose Down
UPDATE plans SET document = json_remove(json_set(document, '$.turn', json_extract(document, '$.turns.pavilion')), '$.turns');
UPDATE settings SET document = json_object(
    'version', json_extract(document, '$.version'),
    'answered', json(iif(json_extract(document, '$.answered'), 'true', 'false')),
    'gears', json_extract(document, '$.machines[0].gears'),
    'angleStep', json_extract(document, '$.machines[0].angleStep'),
    'cheater', json(iif(json_extract(document, '$.machines[0].cheater') = 'none', 'false', 'true')),
    'tick', json_extract(document, '$.habits[0].tick'),
    'passes', json_extract(document, '$.habits[0].passes'));
