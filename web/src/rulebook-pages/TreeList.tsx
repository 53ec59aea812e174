import Box from '@mui/material/Box';

interface Item {
  id: string;
  name: string;
  parent: string | null;
}

/** Named things below one another, indented. */
export function TreeList({ items, parent = null }: { items: Item[]; parent?: string | null }) {
  const own = items.filter((item) => item.parent === parent);
  if (own.length === 0) return null;
  return (
    <Box
      component="ul"
      sx={{ listStyle: 'none', m: 0, pl: parent === null ? 0 : 4, borderLeft: parent === null ? 0 : 1, borderColor: 'divider' }}
    >
      {own.map((item) => (
        <li key={item.id}>
          <Box component="span" className="figures" sx={{ lineHeight: 1.7 }}>
            {item.name}
          </Box>
          <TreeList items={items} parent={item.id} />
        </li>
      ))}
    </Box>
  );
}
