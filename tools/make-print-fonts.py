# Makes public/fonts/*.ttf for the PDF, and the music signs for the page, from the shipped variable fonts (OFL) and Debian's DejaVu Sans (free licence).
# Needs Debian's python3-fonttools, python3-brotli and fonts-dejavu-core; run with /usr/bin/python3. The results are committed.
import os
from fontTools import subset
from fontTools.ttLib import TTFont
from fontTools.varLib import instancer

BASE = 'node_modules/@fontsource-variable'
FACES = [
    ('text', f'{BASE}/atkinson-hyperlegible-next/files/atkinson-hyperlegible-next-latin-wght-normal.woff2', {'wght': 400}),
    ('text-bold', f'{BASE}/atkinson-hyperlegible-next/files/atkinson-hyperlegible-next-latin-wght-normal.woff2', {'wght': 700}),
    ('mono', f'{BASE}/atkinson-hyperlegible-mono/files/atkinson-hyperlegible-mono-latin-wght-normal.woff2', {'wght': 500}),
    ('heading', f'{BASE}/bricolage-grotesque/files/bricolage-grotesque-latin-wght-normal.woff2', {'wght': 700}),
]
os.makedirs('public/fonts', exist_ok=True)
for name, path, axes in FACES:
    font = instancer.instantiateVariableFont(TTFont(path), axes)
    font.flavor = None
    font.save(f'public/fonts/{name}.ttf')
    print(name, os.path.getsize(f'public/fonts/{name}.ttf'))
options = subset.Options()
options.layout_features = []
for name, path in [('signs', '/usr/share/fonts/truetype/dejavu/DejaVuSans.ttf'), ('signs-bold', '/usr/share/fonts/truetype/dejavu/DejaVuSans-Bold.ttf')]:
    font = TTFont(path)
    subsetter = subset.Subsetter(options)
    subsetter.populate(unicodes=[0x20, 0x266D, 0x266E, 0x266F, 0x2190, 0x2191, 0x2192, 0x2193, 0x2248, 0x2669])
    subsetter.subset(font)
    font.save(f'public/fonts/{name}.ttf')
    print(name, os.path.getsize(f'public/fonts/{name}.ttf'))
