/** What stands in places people train at, so that one tap says it; ours, to be changed piece by piece. */
const places: { name: string; kit: string[] }[] = [
  {
    name: 'Full gym',
    kit: [
      'band',
      'barbell',
      'bench',
      'box',
      'cable',
      'club',
      'dumbbells',
      'heavy club',
      'light club',
      'medicine ball',
      'plates',
      'pull-up bar',
      'rope',
      'stick',
      'trap bar',
    ],
  },
  {
    name: 'Small gym',
    kit: ['band', 'bench', 'box', 'club', 'dumbbells', 'light club', 'medicine ball', 'pull-up bar', 'stick'],
  },
  { name: 'Home or hotel', kit: ['band', 'club', 'stick'] },
  { name: 'Nothing', kit: [] },
]

/** The places, with what of them the library knows. */
export const kitOfPlaces = (known: string[]) =>
  places.map((p) => ({ name: p.name, kit: p.kit.filter((k) => known.includes(k)) }))
