'use client';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import { count } from '@itchkit/core/document';
import { ORDERS, type Order } from './shelf-view';

interface ShelfBarProps {
  search: string;
  order: Order;
  chosen: number;
  onSearch: (text: string) => void;
  onOrder: (order: Order) => void;
  onCopy: () => void;
  onRemove: () => void;
  onLetGo: () => void;
}

/** Search and order of the shelf; with kits chosen, what can be done with all of them. */
export function ShelfBar({ search, order, chosen, onSearch, onOrder, onCopy, onRemove, onLetGo }: ShelfBarProps) {
  return (
    <Box sx={{ display: 'flex', flexWrap: 'wrap', alignItems: 'center', gap: 2, mb: 4 }}>
      <TextField
        size="small"
        type="search"
        label="Search the shelf"
        value={search}
        onChange={(event) => onSearch(event.target.value)}
        onKeyDown={(event) => event.key === 'Escape' && onSearch('')}
        sx={{ width: 260 }}
      />
      <TextField
        select
        size="small"
        label="Order"
        value={order}
        onChange={(event) => onOrder(event.target.value as Order)}
        sx={{ width: 150 }}
      >
        {Object.entries(ORDERS).map(([one, title]) => (
          <MenuItem key={one} value={one}>
            {title}
          </MenuItem>
        ))}
      </TextField>
      {chosen > 0 && (
        <Box role="group" aria-label="Chosen kits" sx={{ ml: 'auto', display: 'flex', gap: 1, alignItems: 'center', fontSize: 13 }}>
          {count(chosen, 'kit')} chosen
          <Button variant="outlined" onClick={onCopy}>
            Make a copy
          </Button>
          <Button variant="outlined" onClick={onRemove}>
            Take off the shelf
          </Button>
          <Button color="inherit" onClick={onLetGo}>
            Let go
          </Button>
        </Box>
      )}
    </Box>
  );
}
